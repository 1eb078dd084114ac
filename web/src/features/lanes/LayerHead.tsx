import type { Clip, Layer } from "../../api/types";
import { CornerNumber } from "../../parts/CornerNumber";
import { LetterSwitch } from "../../shared/LetterSwitch";
import { usePending } from "../../shared/usePending";
import { flip } from "../../stores/editing";
import { howToSelect, idsAlike, selectedLayers, selectLayer } from "../../stores/selection";
import { LayerScribble } from "./LayerScribble";
import { rowHeight } from "./rowHeight";
import { useReorder } from "./useReorder";

/** Selection state of a layer: not selected, one of several, or the one on the board. */
export type Chosen = "no" | "too" | "board";

type LayerHeadProps = { clip: Clip; layer: Layer; chosen: Chosen; compact: boolean };

/** Head of a layer's row: name, mute, solo. */
export function LayerHead({ clip, layer, chosen, compact }: LayerHeadProps) {
  const height = rowHeight(compact, chosen === "board");
  const rowPx = rowHeight(compact, false);
  const low = height < rowHeight(false, true);
  const { by, handle } = useReorder(clip, layer, rowPx);
  const where = low ? "items-center gap-2" : "flex-col justify-center gap-1";
  const paper = chosen === "no" ? "" : "bg-(--wash)";
  const edge = chosen === "board" ? "shadow-[inset_3px_0_0_var(--color-primary)]" : "";
  return (
    <div className={`relative flex border-base-300 border-b px-3 ${where} ${paper} ${edge}`} style={{ height }}>
      <button
        type="button"
        aria-pressed={chosen !== "no"}
        className={`cond block min-w-0 flex-1 touch-none truncate text-left font-semibold text-[13px] ${chosen === "no" ? "" : "text-primary"}`}
        title={`${layer.name}: drag to reorder; Shift selects a range, Ctrl adds or removes`}
        {...handle}
        onClick={(event) => selectLayer(layer.id, howToSelect(event))}
      >
        {layer.name}
      </button>
      <span className="flex items-center">
        {clip.blend && (
          <span className="mr-1.5 flex">
            <CornerNumber blend={clip.blend} corner={layer.corner} />
          </span>
        )}
        <Switch title="Mute" letter="M" layer={layer} field="mute" />
        <Switch title="Solo" letter="S" layer={layer} field="solo" />
        {!low && (
          <>
            <span className="cond ml-1 text-(--graphite) text-xs">{layer.source.kind}</span>
            <LayerScribble id={layer.id} />
          </>
        )}
      </span>
      {by !== null && <DropMark by={by} rowPx={rowPx} height={height} />}
    </div>
  );
}

/** Drop position of a dragged layer. */
function DropMark({ by, rowPx, height }: { by: number; rowPx: number; height: number }) {
  const top = by > 0 ? -by * rowPx - 1 : by < 0 ? height - by * rowPx - 1 : -1;
  return <span className="pointer-events-none absolute inset-x-0 z-10 h-0.5 bg-primary" style={{ top }} />;
}

type SwitchProps = { title: string; letter: string; layer: Layer; field: "mute" | "solo" };

function Switch({ title, letter, layer, field }: SwitchProps) {
  const at = `layer:${layer.id}.${field}`;
  const on = usePending(at, layer[field]);
  const all = () =>
    idsAlike(layer.id).length > 1 ? [...selectedLayers().filter(({ id }) => id !== layer.id), layer] : [layer];
  return (
    <LetterSwitch at={at} letter={letter} title={`${title} ${layer.name}`} on={on} onFlip={() => flip(all(), field)} />
  );
}
