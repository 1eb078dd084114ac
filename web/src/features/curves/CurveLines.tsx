import type { MotionArray } from "../../api/motion";
import type { TimeScale } from "../../shared/timeScale";
import type { Track } from "./groups";
import { linePath, valueTicks } from "./plot";

type ValueRulesProps = {
  values: [number, number];
  y: TimeScale;
  unit: string;
  times: number;
  width: number;
  height: number;
};

/** Rules across the plot at round values. */
export function ValueRules({ values, y, unit, times, width, height }: ValueRulesProps) {
  return valueTicks([values[0] * times, values[1] * times], height).map((tick) => (
    <g key={tick}>
      <line
        x1={0}
        x2={width}
        y1={y(tick / times)}
        y2={y(tick / times)}
        stroke="var(--color-base-300)"
        strokeWidth={tick === 0 ? 1.5 : 0.75}
      />
      <text x={16} y={y(tick / times) - 2} fontSize="10" className="num" fill="var(--graphite)">
        {Number(tick.toPrecision(6))} {unit}
      </text>
    </g>
  ));
}

type CurveLinesProps = { tracks: Track[]; arrays: Map<string, MotionArray>; x: TimeScale; y: TimeScale; width: number };

/** The curves, and behind those of the move, thin, what the shake makes of them. */
export function CurveLines({ tracks, arrays, x, y, width }: CurveLinesProps) {
  const line = (track: Track, array: MotionArray | undefined, column: number | undefined, kept: boolean) =>
    array && column !== undefined ? (
      <path
        key={`${track.at}/${kept}`}
        d={linePath(array, column, x, y, width)}
        fill="none"
        stroke={`var(--ink-${track.ink})`}
        strokeOpacity={kept ? 1 : 0.35}
        strokeWidth={kept ? 1.6 : 1}
      />
    ) : null;
  return (
    <>
      {tracks.map((track) => line(track, arrays.get("pose"), track.poseColumn, false))}
      {tracks.map((track) => line(track, arrays.get(`curve:${track.at}`), 0, true))}
    </>
  );
}
