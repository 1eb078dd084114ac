import { keysOf } from "../../api/param";
import type { Command } from "../../api/types";
import type { TimeScale } from "../../shared/timeScale";
import { useTrialDrag } from "../../shared/useTrialDrag";
import type { Track } from "./groups";
import type { KeyRef } from "./useSelectedKeys";

type Side = "handle_in" | "handle_out";
type Handle = { at: string; frame: number; value: number; side: Side; reach: [number, number] };

const HALF_PX = 3.5;
/** A key without handles has them where the curve would be straight: a third of the way to its neighbour. */
const THIRD = 1 / 3;

/** The handles of the selected keys; the first has none before it, the last none after it. */
function handlesOf(tracks: Track[], selected: KeyRef[]): Handle[] {
  return tracks.flatMap(({ at, param }) => {
    const keys = keysOf(param);
    return keys.flatMap((key, index) => {
      if (!selected.some((each) => each.at === at && each.frame === key.frame)) return [];
      const side = (name: Side, neighbour: number | undefined): Handle[] =>
        neighbour === undefined
          ? []
          : [
              {
                at,
                frame: key.frame,
                value: key.value,
                side: name,
                reach: key[name] ?? [(neighbour - key.frame) * THIRD, 0],
              },
            ];
      return [...side("handle_in", keys[index - 1]?.frame), ...side("handle_out", keys[index + 1]?.frame)];
    });
  });
}

const sameHandle = (a: Handle, b: Handle) => a.at === b.at && a.frame === b.frame && a.side === b.side;

/** Handles of the selected points: dragging one makes the curve on that side free. */
export function CurveHandles(props: { tracks: Track[]; selected: KeyRef[]; x: TimeScale; y: TimeScale }) {
  const { tracks, selected, x, y } = props;
  const { bind, live } = useTrialDrag<Handle, [number, number]>({
    live: ({ what: { frame, value, side }, x: px, y: py, element }) => {
      const box = element.closest("svg")?.getBoundingClientRect();
      const frames = x.invert(px - (box?.left ?? 0)) - frame;
      const back = side === "handle_in";
      return [back ? Math.min(0, frames) : Math.max(0, frames), y.invert(py - (box?.top ?? 0)) - value];
    },
    command: (reach, { at, frame, side }) => ({ type: "set_handles", at, frame, [side]: reach }) as Command,
  });
  return handlesOf(tracks, selected).map((handle) => {
    const { at, frame, value, side } = handle;
    const [frames, rise] = live && sameHandle(live.what, handle) ? live.value : handle.reach;
    const [cx, cy] = [x(frame + frames), y(value + rise)];
    const id = `${at}/${frame}/${side}`;
    return (
      <g key={id}>
        <line x1={x(frame)} y1={y(value)} x2={cx} y2={cy} stroke="var(--graphite)" strokeWidth="1" />
        <rect
          data-handle={id}
          x={cx - HALF_PX}
          y={cy - HALF_PX}
          width={2 * HALF_PX}
          height={2 * HALF_PX}
          fill="var(--color-base-100)"
          stroke="var(--graphite)"
          className="cursor-move touch-none"
          {...bind(handle)}
        />
      </g>
    );
  });
}
