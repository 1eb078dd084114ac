import { useVirtualizer } from "@tanstack/react-virtual";
import { useEffect, useRef } from "react";
import { useStore } from "zustand";
import type { PresetEntry, Swatch } from "../../api/types";
import { useAfterTyped } from "../../shared/number";
import { useSize } from "../../shared/useSize";
import { presets, readable } from "../../stores/presets";
import { cancelPreview, preview, previewState } from "../../stores/preview";
import { PresetCard } from "./PresetCard";
import { place, placing } from "./placing";
import { usePlacing, useSelectedClip } from "./sheetStore";
import { useSwatches } from "./useSwatches";

const CARD_PX = 200;
const ROW_PX = 96;
const GAP_PX = 5;
const PADDING_PX = 8;
const ABOVE_PX = 3;
const OVERSCAN = 2;

/** Cards in rows, of which only those in sight are there. Arrow keys go from card to card. */
export function PresetGrid({ found }: { found: PresetEntry[] }) {
  const [ref, size] = useSize<HTMLDivElement>();
  const room = size.width - 2 * PADDING_PX;
  const columns = Math.max(1, Math.floor((room + GAP_PX) / (CARD_PX + GAP_PX)));
  const width = Math.floor((room - (columns - 1) * GAP_PX) / columns);
  const rows = useVirtualizer({
    count: Math.ceil(found.length / columns),
    getScrollElement: () => ref.current,
    estimateSize: () => ROW_PX + GAP_PX,
    paddingStart: ABOVE_PX,
    paddingEnd: PADDING_PX,
    overscan: OVERSCAN,
  });
  const shown = rows.getVirtualItems();
  const rowOf = (index: number) => found.slice(index * columns, (index + 1) * columns);
  const swatches = useSwatches(shown.flatMap(({ index }) => rowOf(index)).filter(readable));
  const stepCards = useSteps(found, columns, rows.scrollToIndex);
  return (
    <div
      ref={ref}
      role="toolbar"
      tabIndex={-1}
      aria-label="Presets"
      onKeyDown={stepCards}
      className="min-w-0 flex-1 overflow-y-auto"
      data-cards={found.length}
    >
      <div className="relative" style={{ height: rows.getTotalSize() }}>
        {size.width > 0 &&
          shown.map(({ index, start }) => (
            <div
              key={index}
              className="absolute grid"
              style={{
                top: start,
                left: PADDING_PX,
                height: ROW_PX,
                gap: GAP_PX,
                gridTemplateColumns: `repeat(${columns}, ${width}px)`,
              }}
            >
              {rowOf(index).map((entry) => (
                <GridCard key={entry.key} entry={entry} swatch={swatches.get(entry.key)} width={width} />
              ))}
            </div>
          ))}
      </div>
    </div>
  );
}

type GridCardProps = { entry: PresetEntry; swatch: Swatch | undefined; width: number };

function GridCard({ entry, swatch, width }: GridCardProps) {
  const where = usePlacing();
  const clip = useSelectedClip();
  const triedOn = useStore(previewState, ({ command }) => !!command && "key" in command && command.key === entry.key);
  const marked = useStore(presets, (each) => each.marked.includes(entry.key));
  const withCommand = (run: (command: ReturnType<typeof placing>) => void) => () =>
    readable(entry) && run(placing(where, entry));
  const placeSoon = useAfterTyped(withCommand(place));
  return (
    <PresetCard
      entry={entry}
      swatch={swatch ?? null}
      width={width}
      triedOn={triedOn}
      marked={marked}
      clip={clip}
      onTry={withCommand(preview)}
      onLeave={cancelPreview}
      onPlace={placeSoon}
    />
  );
}

/** Arrow keys from card to card, over the edge of what is in sight too. */
function useSteps(found: PresetEntry[], columns: number, scrollTo: (row: number) => void) {
  const pendingKey = useRef<string | null>(null);
  useEffect(() => {
    if (!pendingKey.current) return;
    const card = document.querySelector<HTMLElement>(`[data-card="${pendingKey.current}"]`);
    if (card) pendingKey.current = null;
    card?.focus();
  });
  return (event: React.KeyboardEvent<HTMLElement>) => {
    const steps: Record<string, number> = { ArrowRight: 1, ArrowLeft: -1, ArrowDown: columns, ArrowUp: -columns };
    const step = steps[event.key];
    // A card that is still on its way counts as reached: every press counts, however slow the picture.
    const from = pendingKey.current ?? (document.activeElement as HTMLElement).dataset.card;
    const now = found.findIndex(({ key }) => key === from);
    if (!step || now < 0) return;
    event.preventDefault();
    event.stopPropagation();
    const next = found[now + step];
    if (!next) return;
    const card = document.querySelector<HTMLElement>(`[data-card="${next.key}"]`);
    pendingKey.current = card ? null : next.key;
    if (card) card.focus();
    else {
      // Until it is there the grid has the focus: the card left behind may go at any time.
      event.currentTarget.focus();
      scrollTo(Math.floor((now + step) / columns));
    }
  };
}
