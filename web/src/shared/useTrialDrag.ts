import { useRef, useState } from "react";
import type { Command } from "../api/types";
import { commit } from "../stores/editing";
import { cancelPreview, preview } from "../stores/preview";
import { type DragState, useDragging } from "./useDragging";

type Trial<T, L> = {
  press?: (held: DragState<T>) => boolean | undefined;
  tap?: (held: DragState<T>) => void;
  /** Its value for the pointer position; null when unchanged. */
  live: (held: DragState<T>) => L | null;
  command: (live: L, what: T) => Command;
  /** Final command, if it is not the last previewed one. */
  kept?: () => Command | null;
  /** Right after it was let go. */
  dropped?: (live: L, what: T) => void;
};

/** Dragging something of the shot: what it has come to is tried on while it is held, and kept when it is let go. `live` and `command` use the state of the page at the press. */
export function useTrialDrag<T, L>(trial: Trial<T, L>, enabled = true) {
  const [live, setLive] = useState<{ what: T; value: L } | null>(null);
  const now = useRef<{ what: T; value: L } | null>(null);
  /** State at the press: values that a preview changes must not be added to the pointer's displacement again. */
  const pressed = useRef(trial);
  const show = (next: { what: T; value: L } | null) => {
    now.current = next;
    setLive(next);
  };
  const bind = useDragging<T>(
    {
      press: (held) => {
        pressed.current = trial;
        return trial.press?.(held);
      },
      tap: trial.tap,
      move: (held) => {
        const value = pressed.current.live(held);
        if (JSON.stringify(value) === JSON.stringify(now.current?.value ?? null)) return;
        show(value === null ? null : { what: held.what, value });
        if (value === null) cancelPreview();
        else preview(pressed.current.command(value, held.what));
      },
      drop: () => {
        const last = now.current;
        if (!last) {
          cancelPreview();
          return;
        }
        // The displayed value stays until it is saved, unless another drag starts.
        void commit(pressed.current.kept?.() ?? pressed.current.command(last.value, last.what)).finally(
          () => now.current === last && show(null),
        );
        pressed.current.dropped?.(last.value, last.what);
      },
      cancel: () => {
        pressed.current.kept?.();
        show(null);
        cancelPreview();
      },
    },
    enabled,
  );
  return { bind, live };
}
