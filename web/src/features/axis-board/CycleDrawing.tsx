import type { Layer } from "../../api/types";
import { byArrows, keepArrows } from "../../shared/byArrows";
import { usePending } from "../../shared/usePending";
import { useTrialDrag } from "../../shared/useTrialDrag";
import { commit } from "../../stores/editing";
import { CYCLE_HEIGHT, CYCLE_WIDTH, cycleLine, type Point, placeIn, REACH, toX, toY } from "./cyclePlot";

const NEAR_PERCENT = 2;
const APART_PERCENT = 1;

/** The drawing of a cycle: drag points, double-click adds one, double-click on a point removes it. */
export function CycleDrawing({ layer }: { layer: Layer }) {
  const { source } = layer;
  if (source.kind !== "cycle") return null;
  return <Drawing at={`layer:${layer.id}.source.points`} kept={source.points as Point[]} />;
}

/** A point moved as far as its neighbours and the drawing leave room. */
function moved(points: Point[], index: number, [percent, height]: Point): Point[] {
  const low = (points[index - 1]?.[0] ?? -APART_PERCENT) + APART_PERCENT;
  const high = (points[index + 1]?.[0] ?? 100.5) - APART_PERCENT;
  const within: Point = [Math.min(high, Math.max(low, percent)), Math.min(REACH, Math.max(-REACH, height))];
  return points.map((each, i) => (i === index ? within : each));
}

/** Change of height per arrow key. */
const STEP = 0.02;

function Drawing({ at, ...given }: { at: string; kept: Point[] }) {
  const pendingKeys = usePending(at, given.kept);
  const set = (value: Point[]) => ({ type: "set_values" as const, values: [{ at, value }] });
  const { bind, live } = useTrialDrag<number, Point[]>({
    live: ({ what: index, x, y, element }) => {
      return moved(pendingKeys, index, placeIn(element.closest("svg"), x, y));
    },
    command: set,
  });
  const points = live?.value ?? pendingKeys;
  const onKey = (event: React.KeyboardEvent, index: number) => {
    const move = (across: number, up: number) => {
      const [percent, height] = points[index] ?? [0, 0];
      void commit(set(moved(points, index, [percent + across, height + up * STEP])));
    };
    if (byArrows(event, move) || !["Delete", "Backspace"].includes(event.key)) return;
    event.stopPropagation();
    if (points.length > 2) void commit(set(points.filter((_, i) => i !== index)));
  };
  return (
    <svg
      viewBox={`0 0 ${CYCLE_WIDTH} ${CYCLE_HEIGHT}`}
      className="col-span-4 touch-none rounded-sm border border-base-300"
      role="group"
      aria-label="Drawing of the cycle"
      onDoubleClick={(event) => {
        const [percent, height] = placeIn(event.currentTarget, event.clientX, event.clientY);
        if (points.some(([each]) => Math.abs(each - percent) < NEAR_PERCENT)) return;
        void commit(set([...points, [percent, height] as Point].sort((a, b) => a[0] - b[0])));
      }}
    >
      <line x1={0} x2={CYCLE_WIDTH} y1={CYCLE_HEIGHT / 2} y2={CYCLE_HEIGHT / 2} stroke="var(--color-base-300)" />
      <polyline points={cycleLine(points)} fill="none" stroke="var(--graphite)" strokeDasharray="3 3" />
      {points.map(([x, y], index) => (
        <circle
          key={index}
          tabIndex={0}
          role="button"
          aria-label={`Point ${index + 1} of the cycle: arrow keys move it, Delete removes it`}
          onClick={keepArrows}
          onKeyDown={(event) => onKey(event, index)}
          cx={toX(x)}
          cy={toY(y)}
          r={5}
          className="cursor-move touch-none fill-base-100 stroke-2 stroke-primary"
          {...bind(index)}
          onDoubleClick={(event) => {
            event.stopPropagation();
            if (points.length > 2) void commit(set(points.filter((_, i) => i !== index)));
          }}
        />
      ))}
    </svg>
  );
}
