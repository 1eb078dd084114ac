import type { Layer } from "../../api/types";
import { flip } from "../../stores/session";
import { selectLayer } from "../../stores/view";
import { Hull } from "./Hull";
import { HullShape } from "./HullShape";
import { LayerScribble } from "./LayerScribble";
import { LayerWave } from "./LayerWave";

export const LAYER_HEIGHT_PX = 54;

/** Head of a layer's row: name, mute, solo. */
export function LayerHead({ layer, selected }: { layer: Layer; selected: boolean }) {
  return (
    <div
      className={`flex flex-col justify-center gap-1 border-base-300 border-b px-3 ${selected ? "bg-(--wash)" : ""}`}
      style={{ height: LAYER_HEIGHT_PX }}
    >
      <button
        type="button"
        className={`cond block w-full truncate text-left font-semibold text-[13px] ${selected ? "text-primary" : ""}`}
        title={layer.name}
        onClick={() => selectLayer(layer.id)}
      >
        {layer.name}
      </button>
      <span className="flex items-center gap-1">
        <Switch title={`Mute ${layer.name}`} letter="M" on={layer.mute} onClick={() => flip(layer, "mute")} />
        <Switch title={`Solo ${layer.name}`} letter="S" on={layer.solo} onClick={() => flip(layer, "solo")} />
        <span className="cond ml-1 text-(--graphite) text-xs">{layer.source.kind}</span>
        <LayerScribble id={layer.id} />
      </span>
    </div>
  );
}

function Switch({ title, letter, on, onClick }: { title: string; letter: string; on: boolean; onClick: () => void }) {
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

/** A layer's waveform inside the hull of its weight. */
export function LayerLane({
  layer,
  width,
  selected,
  silent,
}: {
  layer: Layer;
  width: number;
  selected: boolean;
  silent: boolean;
}) {
  const height = LAYER_HEIGHT_PX - 1;
  return (
    <div
      className={`relative border-base-300 border-b ${selected ? "bg-(--wash)" : "hover:bg-base-200/60"}`}
      style={{ height: LAYER_HEIGHT_PX }}
    >
      <HullShape layer={layer} width={width} height={height} />
      <button
        type="button"
        aria-label={`Select layer ${layer.name}`}
        className="relative block w-full cursor-pointer"
        onClick={() => selectLayer(layer.id)}
      >
        <LayerWave width={width} height={height} layer={layer.id} faint={silent} />
      </button>
      {selected && <Hull layer={layer} width={width} height={height} />}
    </div>
  );
}
