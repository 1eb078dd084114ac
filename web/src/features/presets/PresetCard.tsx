import { useEffect, useMemo, useRef } from "react";
import { useStore } from "zustand";
import type { Swatch } from "../../api/types";
import { prepare } from "../../shared/canvas";
import { drawSoon } from "../../shared/drawSoon";
import { paperOf } from "../../shared/paper";
import { traceLine } from "../../shared/traceLine";
import { view } from "../../stores/view";

const WIDTH_PX = 58;
const HEIGHT_PX = 40;

type PresetCardProps = { swatch: Swatch; worn: boolean; onTry: () => void; onLeave: () => void; onPlace: () => void };

/** A preset: how it moves the picture, what it is like, how large it is. Pointed at, it is tried on; clicked, it is placed. */
export function PresetCard({ swatch, worn, onTry, onLeave, onPlace }: PresetCardProps) {
  const { preset } = swatch;
  return (
    <button
      type="button"
      aria-label={`Preset ${preset.name}`}
      title={`${preset.line} About ${swatch.swing_px.toFixed(0)} px on a 35 mm lens, whatever yours is. Click to place it.`}
      className={`flex items-center gap-2 rounded-sm border px-2 py-1 text-left ${worn ? "border-primary bg-(--wash)" : "border-base-300"}`}
      onPointerEnter={onTry}
      onPointerLeave={onLeave}
      onFocus={onTry}
      onBlur={onLeave}
      onClick={onPlace}
    >
      <SwatchScribble swatch={swatch} />
      <span className="flex min-w-0 flex-1 flex-col">
        <span className="flex items-baseline gap-2">
          <span className={`cond truncate font-semibold text-[13px] ${worn ? "text-primary" : ""}`}>{preset.name}</span>
          <span className="num ml-auto shrink-0 text-(--graphite) text-[11px]">{swatch.swing_px.toFixed(0)} px</span>
        </span>
        <span className="cond line-clamp-2 text-(--graphite) text-xs leading-4">{preset.line}</span>
      </span>
    </button>
  );
}

function SwatchScribble({ swatch }: { swatch: Swatch }) {
  const ref = useRef<HTMLCanvasElement>(null);
  const night = useStore(view, (state) => state.night);
  const array = useMemo(() => ({ tag: "", columns: 2, data: Float32Array.from(swatch.scribble) }), [swatch]);
  useEffect(() => {
    const canvas = ref.current;
    if (!canvas) return;
    drawSoon(canvas, () => {
      const context = prepare(canvas, WIDTH_PX, HEIGHT_PX);
      if (context) traceLine(context, array, WIDTH_PX, HEIGHT_PX, { cross: "transparent", line: paperOf(canvas).text });
    });
  }, [array, night]);
  return (
    <canvas
      ref={ref}
      role="img"
      aria-label={`Scribble of ${swatch.preset.name}`}
      className="shrink-0"
      style={{ width: WIDTH_PX, height: HEIGHT_PX }}
    />
  );
}
