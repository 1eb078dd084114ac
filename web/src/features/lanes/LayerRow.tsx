import type { Clip, Layer } from "../../api/types";
import { usePending } from "../../shared/usePending";
import { howToSelect, idsAlike, placesAlike, selectedLayers, selectLayer } from "../../stores/selection";
import { flip } from "../../stores/session";
import { Hull } from "./Hull";
import { HullLevel } from "./HullLevel";
import { HullShape } from "./HullShape";
import { LayerScribble } from "./LayerScribble";
import { LayerWave } from "./LayerWave";
import { rowHeight } from "./rowHeight";
import { SpanGrips } from "./SpanGrips";
import { useReorder } from "./useReorder";

/** How much of a layer is selected: not at all, with others, or as the one on the board. */
export type Chosen = "no" | "too" | "board";

/** Head of a layer's row: name, mute, solo. */
export function LayerHead(props: { clip: Clip; layer: Layer; chosen: Chosen; compact: boolean }) {
  const { clip, layer, chosen, compact } = props;
  const height = rowHeight(compact, chosen === "board");
  const low = height < rowHeight(false, true);
  const { by, handle } = useReorder(clip, layer, rowHeight(compact, false));
  const all = () =>
    idsAlike(layer.id).length > 1 ? [...selectedLayers().filter(({ id }) => id !== layer.id), layer] : [layer];
  return (
    <div
      className={`relative flex border-base-300 border-b px-3 ${low ? "items-center gap-2" : "flex-col justify-center gap-1"} ${chosen === "no" ? "" : "bg-(--wash)"} ${chosen === "board" ? "shadow-[inset_3px_0_0_var(--color-primary)]" : ""}`}
      style={{ height }}
    >
      <button
        type="button"
        aria-pressed={chosen !== "no"}
        className={`cond block min-w-0 flex-1 touch-none truncate text-left font-semibold text-[13px] ${chosen === "no" ? "" : "text-primary"}`}
        title={`${layer.name}: drag up or down to reorder; Shift selects a stretch, Ctrl adds or takes away`}
        {...handle}
        onClick={(event) => selectLayer(layer.id, howToSelect(event))}
      >
        {layer.name}
      </button>
      <span className="flex items-center gap-1">
        <Switch
          title={`Mute ${layer.name}`}
          letter="M"
          layer={layer}
          field="mute"
          onClick={() => flip(all(), "mute")}
        />
        <Switch
          title={`Solo ${layer.name}`}
          letter="S"
          layer={layer}
          field="solo"
          onClick={() => flip(all(), "solo")}
        />
        {!low && (
          <>
            <span className="cond ml-1 text-(--graphite) text-xs">{layer.source.kind}</span>
            <LayerScribble id={layer.id} />
          </>
        )}
      </span>
      {by !== null && (
        <span
          className="pointer-events-none absolute inset-x-0 z-10 h-0.5 bg-primary"
          style={{
            top:
              by > 0 ? -by * rowHeight(compact, false) - 1 : by < 0 ? height - by * rowHeight(compact, false) - 1 : -1,
          }}
        />
      )}
    </div>
  );
}

function Switch(props: { title: string; letter: string; layer: Layer; field: "mute" | "solo"; onClick: () => void }) {
  const { title, letter, layer, field, onClick } = props;
  const on = usePending(`layer:${layer.id}.${field}`, layer[field]);
  return (
    <button
      type="button"
      aria-pressed={on}
      aria-label={title}
      title={title}
      onClick={onClick}
      className={`cond h-[18px] w-[18px] rounded-sm border text-[11px] leading-none ${on ? "border-primary bg-primary text-primary-content" : "border-base-300 hover:border-base-content"}`}
    >
      {letter}
    </button>
  );
}

/** A layer's waveform inside the hull of its weight; its span, ramps and weight are dragged on it. */
export function LayerLane({
  layer,
  width,
  chosen,
  compact,
  silent,
}: {
  layer: Layer;
  width: number;
  chosen: Chosen;
  compact: boolean;
  silent: boolean;
}) {
  const height = rowHeight(compact, chosen === "board") - 1;
  return (
    <div
      className={`relative overflow-hidden border-base-300 border-b ${chosen === "no" ? "hover:bg-base-200/60" : "bg-(--wash)"}`}
      style={{ height: height + 1, width }}
    >
      <HullShape layer={layer} width={width} height={height} />
      <button
        type="button"
        aria-label={`Select layer ${layer.name}`}
        className="relative block w-full cursor-pointer"
        onClick={(event) => selectLayer(layer.id, howToSelect(event))}
      >
        <LayerWave width={width} height={height} layer={layer.id} faint={silent} />
      </button>
      {chosen === "board" && <Hull layer={layer} width={width} height={height} />}
      {chosen === "board" && layer.weight.state === "fixed" && (
        <HullLevel id={layer.id} name={layer.name} weight={layer.weight.value} width={width} height={height} />
      )}
      {chosen !== "no" && (
        <SpanGrips
          at={() => placesAlike(`layer:${layer.id}.span`).map((place) => place.replace(/\.span$/, ""))}
          owner={layer as Layer & { span_frames?: [number, number] | null }}
          name={layer.name}
          width={width}
          height={height}
        />
      )}
    </div>
  );
}
