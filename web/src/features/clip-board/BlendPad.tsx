import type { MotionArray } from "../../api/motion";
import { formulaOf } from "../../api/param";
import type { Blend, Clip, Command } from "../../api/types";
import { byArrows, keepArrows } from "../../shared/byArrows";
import { useNumberAt, useRecording } from "../../shared/number";
import { useFollowedFrame } from "../../shared/useFollowedFrame";
import { useMotionArray } from "../../shared/useMotionArray";
import { useReached } from "../../shared/useReached";
import { useTrialDrag } from "../../shared/useTrialDrag";
import { commit } from "../../stores/editing";
import { rowOf } from "../../stores/motion";
import { presets } from "../../stores/presets";
import { serverTables } from "../../stores/serverTables";
import { transport } from "../../stores/transport";
import { CornerMark } from "./CornerMark";
import { useCorners } from "./useCorners";

const WIDTH_PX = 212;
const HEIGHT_PX = 148;
/** A line needs less room than a pad. */
const LINE_PX = 64;
const EDGE = { x: 30, y: 22 };
const DOT_PX = 24;
const MAX_POINTS = 300;
/** Percent for a press of an arrow key. */
const STEP = 1;
const FREE = "Drag it; while it plays, the drag is recorded. Arrow keys move it by 1 %";
const DRIVEN = "It follows a formula: turn the dial that it reads, or make across and up fixed to drag it";

export type Place = { across: number; up: number };
type Box = { width: number; height: number };

/** The pad of a blend: its corners, the path of the position over the shot, and the position, which can be dragged, and recorded during playback. */
export function BlendPad({ clip, blend }: { clip: Clip; blend: Blend }) {
  const at = `clip:${clip.id}.blend`;
  const line = blend.corners.length === 2;
  const box = { width: WIDTH_PX, height: line ? LINE_PX : HEIGHT_PX };
  const places = serverTables().forms.pads[String(blend.corners.length)] ?? [];
  const corners = places.map(([across, up]) => ({ across, up }));
  const swatches = useCorners(clip.id);
  const way = useMotionArray(`blend:${clip.id}`);
  const go = (to: Place) => void commit(putAt(at, to, line));
  return (
    <div
      className="relative shrink-0 rounded-sm border border-base-300 bg-base-200/40"
      style={box}
      data-testid="blend-pad"
    >
      <svg width={box.width} height={box.height} className="absolute inset-0" aria-hidden="true">
        <polygon
          points={corners.map((each) => pointOf(each, box).join(",")).join(" ")}
          fill="var(--color-base-100)"
          stroke="var(--color-base-300)"
          strokeWidth={line ? 2 : 1}
        />
        <path d={trail(way, box)} fill="none" stroke="var(--graphite)" strokeOpacity="0.7" />
      </svg>
      {blend.corners.map((corner, n) => {
        const where = corners[n];
        const [x, y] = where ? pointOf(where, box) : [0, 0];
        return (
          where && (
            <CornerMark
              key={corner.id}
              blend={blend}
              corner={corner}
              swatch={swatches[corner.id] ?? null}
              x={x}
              y={y}
              onGo={() => go(where)}
              onFill={(preset) => fill(clip.id, corner.id, preset)}
            />
          )
        );
      })}
      <PlaceDot clip={clip.id} at={at} blend={blend} box={box} line={line} way={way} />
    </div>
  );
}

/** Replaces a corner with a preset. */
function fill(clip: string, corner: string, key: string): void {
  const preset = presets.getState().list.find((each) => each.key === key)?.preset;
  if (preset) void commit({ type: "fill_corner", preset, key, clip, corner });
}

type PlaceDotProps = { clip: string; at: string; blend: Blend; box: Box; line: boolean; way: MotionArray | undefined };

/** The place, where it is at the frame that is shown. */
function PlaceDot({ clip, at, blend, box, line, way }: PlaceDotProps) {
  const across = useNumberAt(`${at}.across_percent`, blend.across_percent, true);
  const up = useNumberAt(`${at}.up_percent`, blend.up_percent, true);
  const frame = useFollowedFrame(true);
  const free = !formulaOf(blend.across_percent) && !formulaOf(blend.up_percent);
  const { hold, release } = useRecording<Place>(true, (samples) => ({
    type: "record_place",
    clip,
    samples: samples.map(({ frame: here, value }) => ({ frame: here, ...value })),
  }));
  const { bind, live } = useTrialDrag<void, Place>(
    {
      press: () => true,
      live: ({ dx, dy }) =>
        within({
          across: across + (100 * dx) / (box.width - 2 * EDGE.x),
          up: line ? up : up - (100 * dy) / (box.height - 2 * EDGE.y),
        }),
      command: (to) => hold(to) ?? putAt(at, to, line),
      kept: release,
    },
    free,
  );
  const reached = useReached<Place>();
  const row = way ? rowOf(frame) * way.columns : 0;
  const position = way ? { across: way.data[row] ?? across, up: way.data[row + 1] ?? up } : { across, up };
  const place = live?.value ?? position;
  const [left, top] = pointOf(line ? { ...place, up: 50 } : place, box);
  const where = line
    ? `${place.across.toFixed(0)} %`
    : `${place.across.toFixed(0)} % across, ${place.up.toFixed(0)} % up`;
  return (
    <button
      type="button"
      aria-label={`Place among the corners: ${where}`}
      title={`Place among the corners: ${where}. ${free ? FREE : DRIVEN}`}
      data-testid="blend-place"
      className={`-translate-x-1/2 -translate-y-1/2 absolute touch-none rounded-full ${free ? "cursor-move" : ""}`}
      style={{ left, top, width: DOT_PX, height: DOT_PX }}
      {...bind()}
      onClick={keepArrows}
      onKeyDown={(event) =>
        byArrows(event, (x, y) => {
          const step = (from: Place) => within({ across: from.across + x * STEP, up: from.up + (line ? 0 : y * STEP) });
          void commit(putAt(at, reached("place", { across, up }, step), line));
        })
      }
    >
      <span
        className={`mx-auto block h-3 w-3 rounded-full border-2 shadow ${free ? "border-base-100 bg-primary" : "border-primary bg-base-100"}`}
      />
    </button>
  );
}

/** Both numbers in one step; on a line there is only one. */
function putAt(at: string, { across, up }: Place, line: boolean): Command {
  const values = [{ at: `${at}.across_percent`, value: across }];
  if (!line) values.push({ at: `${at}.up_percent`, value: up });
  return { type: "set_numbers", frame: transport.getState().frame, key: false, values };
}

function within({ across, up }: Place): Place {
  const round = (value: number) => Math.min(100, Math.max(0, Math.round(value * 10) / 10));
  return { across: round(across), up: round(up) };
}

function pointOf({ across, up }: Place, { width, height }: Box): [number, number] {
  const x = EDGE.x + (across / 100) * (width - 2 * EDGE.x);
  return [x, EDGE.y + (1 - up / 100) * (height - 2 * EDGE.y)];
}

/** The path of the position over the shot. */
function trail(way: MotionArray | undefined, box: Box): string {
  if (!way) return "";
  const rows = way.data.length / way.columns;
  const stride = Math.max(1, Math.ceil(rows / MAX_POINTS));
  const points: string[] = [];
  for (let row = 0; row < rows; row += stride) {
    const [across = 0, up = 0] = way.data.subarray(row * way.columns, row * way.columns + way.columns);
    const [x, y] = pointOf({ across, up }, box);
    points.push(`${x.toFixed(1)},${y.toFixed(1)}`);
  }
  return points.length > 1 ? `M${points.join("L")}` : "";
}
