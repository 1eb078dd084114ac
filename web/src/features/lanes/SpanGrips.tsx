import type { Span } from "../../api/types";
import { DragNote } from "./DragNote";
import { type SpanPart, useSpanDrag } from "./useSpanDrag";

/** Ends reach out of the span, where nothing else lies, so that they are as wide as a finger wants. */
const IN_PX = 7;
const OUT_PX = 17;
const BAR_PX = 8;
const RAMP_PX = 24;
const RAMP_HIGH_PX = 14;

const PARTS: Record<SpanPart, { title: string; hint: string }> = {
  all: { title: "Span of", hint: "drag to move it in time; double-click for the whole shot" },
  start: { title: "Start of", hint: "drag the start; double-click for the whole shot" },
  end: { title: "End of", hint: "drag the end; double-click for the whole shot" },
  in: { title: "Ramp in of", hint: "drag the end of the ramp in; double-click for none" },
  out: { title: "Ramp out of", hint: "drag the start of the ramp out; double-click for none" },
};

const LOOKS: Record<SpanPart, string> = {
  all: "cursor-grab bg-primary/15 hover:bg-primary/40",
  start: "group flex cursor-ew-resize justify-end",
  end: "group flex cursor-ew-resize justify-start",
  in: "flex cursor-ew-resize justify-center hover:brightness-125",
  out: "flex cursor-ew-resize justify-center hover:brightness-125",
};

type Box = { left: number; width: number; top: number; height: number };

/** Position of each grip on a lane; none outside the view. */
function boxes(at: Record<SpanPart, number>, width: number, height: number): Partial<Record<SpanPart, Box>> {
  const isVisible = (x: number, half: number) => x >= -half && x <= width + half;
  const startX = Math.max(0, at.start);
  const ramp = (x: number) =>
    isVisible(x, RAMP_PX / 2) ? { left: x - RAMP_PX / 2, width: RAMP_PX, top: 0, height: RAMP_HIGH_PX } : undefined;
  return {
    all:
      at.end > at.start
        ? { left: startX, width: Math.min(width, at.end) - startX, top: height - BAR_PX, height: BAR_PX }
        : undefined,
    start: isVisible(at.start, IN_PX) ? { left: at.start - OUT_PX, width: IN_PX + OUT_PX, top: 0, height } : undefined,
    end: isVisible(at.end, IN_PX) ? { left: at.end - IN_PX, width: IN_PX + OUT_PX, top: 0, height } : undefined,
    in: ramp(at.in),
    out: ramp(at.out),
  };
}

type SpanGripsProps = { at: () => string[]; span: Span; name: string; width: number; height: number };

/** Handles of a span on its lane: both ends, both ramps, and a bar to move it all. */
export function SpanGrips({ at, span, name, width, height }: SpanGripsProps) {
  const { x, grip, places, dragged } = useSpanDrag(at, span, width);
  const across = Object.fromEntries(Object.entries(places).map(([part, frame]) => [part, x(frame)]));
  const lying = boxes(across as Record<SpanPart, number>, width, height);
  return (
    <>
      {(Object.keys(PARTS) as SpanPart[]).map((part) => {
        const box = lying[part];
        const { title, hint } = PARTS[part];
        return (
          box && (
            <button
              key={part}
              type="button"
              data-span={part}
              aria-label={`${title} ${name}`}
              title={`${title} ${name}, frame ${places[part].toFixed(0)}: ${hint}`}
              className={`absolute z-[5] touch-none ${LOOKS[part]}`}
              style={box}
              {...grip(part)}
            >
              {(part === "in" || part === "out") && <RampMark part={part} />}
              {(part === "start" || part === "end") && <EndMark part={part} />}
            </button>
          )
        );
      })}
      {dragged && (
        <DragNote left={Math.min(Math.max(x(dragged.frame) + 8, 0), width - 90)} top={height / 2 - 9}>
          {dragged.part === "all" ? `${dragged.by > 0 ? "+" : ""}${dragged.by} f` : `frame ${dragged.frame}`}
        </DragNote>
      )}
    </>
  );
}

function EndMark({ part }: { part: "start" | "end" }) {
  const edge = part === "start" ? "border-l-2" : "border-r-2";
  return <span className={`h-full border-primary group-hover:bg-primary/20 ${edge}`} style={{ width: IN_PX }} />;
}

function RampMark({ part }: { part: "in" | "out" }) {
  return (
    <svg width="12" height="9" aria-hidden="true" className="fill-primary">
      <path d={part === "in" ? "M6 9L0 0H6Z" : "M6 9L12 0H6Z"} />
    </svg>
  );
}
