import { keysOf } from "../../api/param";
import type { TimeScale } from "../../shared/timeScale";
import { useTrialDrag } from "../../shared/useTrialDrag";
import { CurveHandles } from "./CurveHandles";
import type { GroupProps } from "./groups";
import { SelectFrame } from "./SelectFrame";
import { type KeyRef, sameKey, useSelectedKeys } from "./useSelectedKeys";

type Shift = { keys: KeyRef[]; frames: number; value: number };
type CurvePointsProps = GroupProps & { x: TimeScale; y: TimeScale; height: number };

/** The points: click selects, Shift adds, dragging moves all selected ones on whole frames, a frame drawn around them selects. */
export function CurvePoints({ tracks, unit, times, x, y, width, height }: CurvePointsProps) {
  const [selected, select] = useSelectedKeys();
  const points = tracks.flatMap((track) =>
    keysOf(track.param).map((key) => ({ track, key, ref: { at: track.at, frame: key.frame } })),
  );
  const isOn = (ref: KeyRef) => selected.some((each) => sameKey(each, ref));
  const pressed = (ref: KeyRef, more: boolean) => (isOn(ref) ? selected : more ? [...selected, ref] : [ref]);
  const { bind, live } = useTrialDrag<KeyRef, Shift>({
    press: ({ what, shiftKey }) => {
      select(pressed(what, shiftKey));
      return true;
    },
    live: ({ what, x: px, y: py, dx, dy, altKey }) => ({
      keys: isOn(what) ? selected : [what],
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
  const shiftOf = (ref: KeyRef) =>
    live?.value.keys.some((each) => sameKey(each, ref)) ? live.value : { frames: 0, value: 0 };
  return (
    <g>
      <SelectFrame
        width={width}
        height={height}
        onSelect={({ left, right, top, bottom }, more) => {
          const inside = points.filter(
            ({ key }) => x(key.frame) >= left && x(key.frame) <= right && y(key.value) >= top && y(key.value) <= bottom,
          );
          select([...(more ? selected : []), ...inside.map(({ ref }) => ref)]);
        }}
      />
      {!live && <CurveHandles tracks={tracks} selected={selected} x={x} y={y} />}
      {points.map(({ track, key, ref }) => {
        const ink = isOn(ref) ? "var(--color-primary)" : `var(--ink-${track.ink})`;
        const by = shiftOf(ref);
        return (
          <circle
            key={`${ref.at}/${ref.frame}`}
            data-point={`${track.title}/${key.frame}`}
            cx={x(key.frame + by.frames)}
            cy={y(key.value + by.value)}
            r={4.5}
            fill={isOn(ref) ? ink : "var(--color-base-100)"}
            stroke={ink}
            strokeWidth={2}
            className="cursor-move touch-none"
            {...bind(ref)}
          >
            <title>{`${track.title}, frame ${key.frame}: ${Number((key.value * times).toFixed(4))} ${unit}, ${key.interp}. Alt keeps the value`}</title>
          </circle>
        );
      })}
    </g>
  );
}
