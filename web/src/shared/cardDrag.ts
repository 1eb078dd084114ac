/** A preset's card dragged onto something that takes one. Such a drag is the browser's own: it brings its picture along. */
import type { DragEvent } from "react";

const KIND = "application/x-zittern-preset";

/** For a card that is dragged. */
export function dragCard(key: string) {
  return {
    draggable: true,
    onDragStart: ({ dataTransfer }: DragEvent) => {
      dataTransfer.setData(KIND, key);
      dataTransfer.effectAllowed = "copy";
    },
  };
}

/** For what takes a card; it has `data-over` while a card is above it. */
export function takeCard(take: (key: string) => void) {
  return {
    onDragOver: (event: DragEvent<HTMLElement>) => {
      if (!event.dataTransfer.types.includes(KIND)) return;
      event.preventDefault();
      event.dataTransfer.dropEffect = "copy";
      event.currentTarget.dataset.over = "yes";
    },
    onDragLeave: (event: DragEvent<HTMLElement>) => {
      delete event.currentTarget.dataset.over;
    },
    onDrop: (event: DragEvent<HTMLElement>) => {
      delete event.currentTarget.dataset.over;
      const key = event.dataTransfer.getData(KIND);
      if (!key) return;
      event.preventDefault();
      take(key);
    },
  };
}
