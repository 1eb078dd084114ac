import { useQuery } from "@tanstack/react-query";
import { useStore } from "zustand";
import { client, take } from "../../api/client";
import { keysOf } from "../../api/param";
import type { Command, HandlesOut } from "../../api/types";
import type { TimeScale } from "../../shared/timeScale";
import { useTrialDrag } from "../../shared/useTrialDrag";
import { openShot } from "../../stores/openShot";
import type { Track } from "./groups";
import type { KeyRef } from "./useSelectedKeys";

type Side = "handle_in" | "handle_out";
type Handle = { at: string; frame: number; value: number; side: Side; reach: [number, number] };

const HALF_PX = 3.5;
/** More selected keys than this show no handles. */
const MAX_KEYS = 200;
const SIDES: Side[] = ["handle_in", "handle_out"];

/** The handles of the selected keys, as the server says the curve goes; the first has none before it, the last none after it. */
function useHandles(tracks: Track[], selected: KeyRef[]): Handle[] {
  const state = useStore(openShot, (each) => each.state);
  const shown = selected.length <= MAX_KEYS ? selected : [];
  const params = { path: { shot: state?.slug ?? "" } };
  const { data } = useQuery({
    queryKey: ["handles", state?.slug, state?.revision, state?.variant, shown],
    queryFn: () => take<HandlesOut>(client.POST("/api/shots/{shot}/handles", { params, body: { keys: shown } })),
    enabled: state !== null && shown.length > 0,
    placeholderData: (before) => before,
  });
  return (data?.handles ?? []).flatMap((told) => {
    const { at, frame } = told;
    const param = tracks.find((each) => each.at === at)?.param;
    const key = param && keysOf(param).find((each) => each.frame === frame);
    if (!key || !shown.some((each) => each.at === at && each.frame === frame)) return [];
    return SIDES.flatMap((side) => {
      const reach = told[side];
      return reach ? [{ at, frame, value: key.value, side, reach }] : [];
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
  return useHandles(tracks, selected).map((handle) => {
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
