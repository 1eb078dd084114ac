import { type Spanned, type SpanPart, useSpanDrag } from "./useSpanDrag";

const GRIP_PX = 7;

const TITLES: Record<SpanPart, string> = {
  start: "Start of",
  end: "End of",
  in: "Ramp in of",
  out: "Ramp out of",
  all: "Span of",
};

const HINTS: Record<SpanPart, string> = {
  start: "drag the start; double-click for the whole shot",
  end: "drag the end; double-click for the whole shot",
  in: "drag the end of the ramp in; double-click for none",
  out: "drag the start of the ramp out; double-click for none",
  all: "drag to move it in time; double-click for the whole shot",
};

/** Handles of a span on its lane: both ends, both ramps, and a bar to move it all. */
export function SpanGrips(props: { at: () => string[]; owner: Spanned; name: string; width: number; height: number }) {
  const { at, owner, name, width, height } = props;
  const { x, grip, shown, dragged } = useSpanDrag(at, owner, width);
  const left = x(shown("start"));
  const right = x(shown("end"));
  const handle = (part: SpanPart, style: React.CSSProperties, className: string, children?: React.ReactNode) => (
    <button
      key={part}
      type="button"
      data-span={part}
      aria-label={`${TITLES[part]} ${name}`}
      title={`${TITLES[part]} ${name}, frame ${shown(part).toFixed(0)}: ${HINTS[part]}`}
      className={`absolute z-[5] touch-none ${className}`}
      style={style}
      {...grip(part)}
    >
      {children}
    </button>
  );
  const inside = (at: number, half: number) => at >= -half && at <= width + half;
  return (
    <>
      {right > left &&
        handle(
          "all",
          { left: Math.max(0, left), width: Math.min(width, right) - Math.max(0, left), top: height - 6, height: 6 },
          "cursor-grab bg-primary/15 hover:bg-primary/40",
        )}
      {inside(left, GRIP_PX) &&
        handle(
          "start",
          { left, width: GRIP_PX, top: 0, height },
          "cursor-ew-resize border-primary border-l-2 hover:bg-primary/20",
        )}
      {inside(right, GRIP_PX) &&
        handle(
          "end",
          { left: right - GRIP_PX, width: GRIP_PX, top: 0, height },
          "cursor-ew-resize border-primary border-r-2 hover:bg-primary/20",
        )}
      {(["in", "out"] as const).map((part) => {
        const at = x(shown(part));
        return (
          inside(at, 6) &&
          handle(
            part,
            { left: at - 6, width: 12, top: 0, height: 12 },
            "flex cursor-ew-resize justify-center hover:brightness-125",
            <svg width="12" height="9" aria-hidden="true" className="fill-primary">
              <path d={part === "in" ? "M6 9L0 0H6Z" : "M6 9L12 0H6Z"} />
            </svg>,
          )
        );
      })}
      {dragged && (
        <span
          className="num pointer-events-none absolute z-[6] rounded-sm bg-primary px-1 text-[11px] text-primary-content"
          style={{ left: Math.min(Math.max(x(shown(dragged.part)) + 8, 0), width - 90), top: height / 2 - 9 }}
        >
          {dragged.part === "all" ? `${dragged.by > 0 ? "+" : ""}${dragged.by} f` : `frame ${dragged.frame}`}
        </span>
      )}
    </>
  );
}
