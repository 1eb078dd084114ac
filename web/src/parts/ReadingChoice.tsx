import type { PathReading } from "../api/types";

const WIDTH = 150;
const HEIGHT = 76;
const MARGIN = 8;
/** The ground and a person on it are always in the picture. */
const PERSON_M = 1.8;

type ReadingChoiceProps = { readings: PathReading[]; chosen: number; onChoose: (index: number) => void };

/** A path may have been made with Z up or in centimeters: which reading is right is seen from the side. */
export function ReadingChoice({ readings, chosen, onChoose }: ReadingChoiceProps) {
  const likely = readings[readings.length - 1];
  if (!likely || readings.length < 2) return null;
  return (
    <fieldset className="mb-3 flex flex-col gap-1 text-sm" aria-label="How the path is read">
      <p>The path looks like {likely.says}. Which is right? Seen from the side, with a person on the ground:</p>
      <div className="flex gap-3">
        {readings.map((reading, index) => (
          <label
            key={reading.says}
            className="flex cursor-pointer flex-col gap-1 rounded-sm border border-base-300 p-2"
          >
            <SideView reading={reading} />
            <span className="flex items-center gap-1.5">
              <input
                type="radio"
                name="reading"
                className="tick tick-round"
                checked={chosen === index}
                onChange={() => onChoose(index)}
              />
              {reading.says}
            </span>
          </label>
        ))}
      </div>
    </fieldset>
  );
}

/** A path from the side: its height over the longer of its two level directions, and where the camera looks. */
function SideView({ reading: { places_m, ahead } }: { reading: PathReading }) {
  const spread = (axis: 0 | 2) => {
    const values = places_m.map((place) => place[axis]);
    return Math.max(...values) - Math.min(...values);
  };
  const along = spread(0) >= spread(2) ? 0 : 2;
  const points = places_m.map((place) => [place[along], place[1]] as const);
  const xs = points.map(([x]) => x);
  const ys = [0, PERSON_M, ...points.map(([, y]) => y)];
  const [left, low, high] = [Math.min(...xs), Math.min(...ys), Math.max(...ys)];
  const size = Math.max((Math.max(...xs) - left) / (WIDTH - 2 * MARGIN), (high - low) / (HEIGHT - 2 * MARGIN), 1e-9);
  const x = (value: number) => MARGIN + (value - left) / size;
  const y = (value: number) => HEIGHT - MARGIN - (value - low) / size;
  const look = points.length > 1 ? [0, points.length - 1] : [0];
  return (
    <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} width={WIDTH} height={HEIGHT} className="bg-base-200">
      <title>{`Path from the side, ${(high - low).toFixed(1)} m high`}</title>
      <line x1={0} x2={WIDTH} y1={y(0)} y2={y(0)} stroke="var(--graphite)" strokeDasharray="3 3" />
      <line x1={x(left)} x2={x(left)} y1={y(0)} y2={y(PERSON_M)} stroke="var(--graphite)" strokeWidth={3} />
      <polyline
        points={points.map(([a, b]) => `${x(a)},${y(b)}`).join(" ")}
        fill="none"
        stroke="var(--color-primary)"
        strokeWidth={1.5}
      />
      {look.map((n) => {
        const [a, b] = points[n] ?? [0, 0];
        const way = ahead[n] ?? [0, 0, 0];
        return (
          <g key={n} stroke="var(--color-primary)">
            <circle cx={x(a)} cy={y(b)} r={2.5} fill="var(--color-primary)" />
            <line x1={x(a)} y1={y(b)} x2={x(a) + 14 * way[along]} y2={y(b) - 14 * way[1]} />
          </g>
        );
      })}
    </svg>
  );
}
