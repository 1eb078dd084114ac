import { useMemo, useRef } from "react";
import { keysOf } from "../../api/param";
import type { Key } from "../../api/types";
import { byArrows, keepArrows } from "../../shared/byArrows";
import { dotPath } from "../../shared/dotPath";
import { thinned } from "../../shared/thinned";
import type { TimeScale } from "../../shared/timeScale";
import { useResting } from "../../shared/useResting";
import { useTrialDrag } from "../../shared/useTrialDrag";
import { commit } from "../../stores/editing";
import { CurveHandles } from "./CurveHandles";
import type { GroupProps, Track } from "./groups";
import { SelectFrame } from "./SelectFrame";
import { type KeyRef, sameKey, useSelectedKeys } from "./useSelectedKeys";

/** Points that are closer together are drawn as one; zoom in to separate them. */
const APART_PX = 8;
const MAX_CHOSEN = 200;
const EDGE_PX = 8;
const RADIUS_PX = 4.5;
/** Up to this many can be dragged while the time is zoomed. */
const FEW = 40;
const nameOf = ({ at, frame }: KeyRef) => `${at}/${frame}`;

type Shift = { keys: KeyRef[]; frames: number; value: number };
type CurvePointsProps = GroupProps & { x: TimeScale; y: TimeScale; height: number };

/** All points, and the drawn ones: points that cannot be separated are drawn as one. */
function usePoints(tracks: Track[], chosen: Set<string>, x: TimeScale, width: number) {
  const curves = useMemo(
    () =>
      tracks.map((track) =>
        keysOf(track.param).map((key, n) => ({ track, key, n, ref: { at: track.at, frame: key.frame } })),
      ),
    [tracks],
  );
  const shown = useMemo(() => {
    const [from, to] = [x.invert(-EDGE_PX), x.invert(width + EDGE_PX)];
    const few = chosen.size < MAX_CHOSEN;
    return curves.flatMap((points) =>
      thinned(
        points.filter(({ key }) => key.frame > from && key.frame < to),
        ({ key }) => x(key.frame),
        APART_PX,
        ({ ref }) => few && chosen.has(nameOf(ref)),
      ),
    );
  }, [curves, x, width, chosen]);
  return { curves, shown };
}

/** Points that are pressed, and dragged with all that are selected. */
function usePointDrag(
  selected: KeyRef[],
  select: (keys: KeyRef[]) => void,
  isOn: (ref: KeyRef) => boolean,
  x: TimeScale,
  y: TimeScale,
) {
  const pressed = (ref: KeyRef, more: boolean) => (isOn(ref) ? selected : more ? [...selected, ref] : [ref]);
  const heldKeys = useRef<KeyRef[]>([]);
  return useTrialDrag<KeyRef, Shift>({
    press: ({ what, shiftKey }) => {
      heldKeys.current = pressed(what, shiftKey);
      select(heldKeys.current);
      return true;
    },
    live: ({ x: px, y: py, dx, dy, altKey }) => ({
      keys: heldKeys.current,
      frames: Math.round(x.invert(px) - x.invert(px - dx)),
      value: altKey ? 0 : y.invert(py) - y.invert(py - dy),
    }),
    command: ({ keys, frames, value }) => ({
      type: "move_keys",
      keys,
      by_frames: frames,
      by_value: value,
      copy_keys: false,
    }),
    dropped: ({ keys, frames }) => select(keys.map((each) => ({ ...each, frame: each.frame + frames }))),
  });
}

/** The points: click selects, Shift adds, dragging moves all selected ones on whole frames, a frame drawn around them selects. */
export function CurvePoints({ tracks, unit, times, x, y, width, height }: CurvePointsProps) {
  const [selected, select] = useSelectedKeys();
  const chosen = useMemo(() => new Set(selected.map(nameOf)), [selected]);
  const isOn = (ref: KeyRef) => chosen.has(nameOf(ref));
  const { curves, shown } = usePoints(tracks, chosen, x, width);
  const passing = !useResting(x) && shown.length > FEW;
  const { bind, live } = usePointDrag(selected, select, isOn, x, y);
  const nudge = (frames: number, up: number) => {
    const moved = selected;
    const value = up * (y.invert(0) - y.invert(1)) || 0;
    select(moved.map((each) => ({ ...each, frame: each.frame + frames })));
    // Each press counts: what it moves is there when its turn comes.
    void commit(() => ({ type: "move_keys", keys: moved, by_frames: frames, by_value: value, copy_keys: false }));
  };
  const shiftOf = (ref: KeyRef) =>
    live?.value.keys.some((each) => sameKey(each, ref)) ? live.value : { frames: 0, value: 0 };
  return (
    <g>
      <SelectFrame
        width={width}
        height={height}
        onSelect={({ left, right, top, bottom }, more) => {
          const within = ({ key }: { key: Key }) =>
            x(key.frame) >= left && x(key.frame) <= right && y(key.value) >= top && y(key.value) <= bottom;
          const inside = curves.flatMap((points) => points.filter(within));
          select([...(more ? selected : []), ...inside.map(({ ref }) => ref)]);
        }}
      />
      {!live && <CurveHandles tracks={tracks} selected={selected} x={x} y={y} />}
      {passing && tracks.map((track) => <Dots key={track.at} track={track} points={shown} x={x} y={y} />)}
      {(passing ? shown.filter(({ ref }) => isOn(ref)) : shown).map(({ track, key, n, ref }) => {
        const by = shiftOf(ref);
        return (
          <Point
            // By its place on the curve: one that arrow keys move stays the one that has the focus.
            key={`${ref.at}/${n}`}
            track={track}
            of={key}
            told={`${Number((key.value * times).toFixed(4))} ${unit}`}
            on={isOn(ref)}
            cx={x(key.frame + by.frames)}
            cy={y(key.value + by.value)}
            hold={bind(ref)}
            onFocus={() => !isOn(ref) && select([ref])}
            onMove={nudge}
          />
        );
      })}
    </g>
  );
}

type DotsProps = { track: Track; points: { track: Track; key: Key }[]; x: TimeScale; y: TimeScale };

/** The points of a curve as one drawing, while they go by. */
function Dots({ track, points, x, y }: DotsProps) {
  const own = points.filter((each) => each.track === track);
  return (
    <path
      d={own.map(({ key }) => dotPath(x(key.frame), y(key.value), RADIUS_PX)).join("")}
      fill="var(--color-base-100)"
      stroke={`var(--ink-${track.ink})`}
      strokeWidth={2}
    />
  );
}

type PointProps = {
  track: Track;
  of: Key;
  told: string;
  on: boolean;
  cx: number;
  cy: number;
  hold: Record<string, (event: unknown) => void>;
  onFocus: () => void;
  onMove: (frames: number, up: number) => void;
};

function Point({ track, of, told, on, cx, cy, hold, onFocus, onMove }: PointProps) {
  const ink = on ? "var(--color-primary)" : `var(--ink-${track.ink})`;
  return (
    <circle
      data-point={`${track.title}/${of.frame}`}
      cx={cx}
      cy={cy}
      r={RADIUS_PX}
      fill={on ? ink : "var(--color-base-100)"}
      stroke={ink}
      strokeWidth={2}
      className="cursor-move touch-none"
      tabIndex={0}
      role="button"
      aria-label={`${track.title} at frame ${of.frame}: arrow keys move it`}
      {...hold}
      onFocus={onFocus}
      onClick={keepArrows}
      onKeyDown={(event) => byArrows(event, onMove)}
    >
      <title>{`${track.title}, frame ${of.frame}: ${told}, ${of.interp}. Alt: move in time only`}</title>
    </circle>
  );
}
