import { useQuery } from "@tanstack/react-query";
import { client, take } from "../../api/client";
import type { Spectrum as Bands, Layer } from "../../api/types";

const WIDTH = 356;
const HEIGHT = 58;
const FOOT = 12;
const MARKS_HZ = [0.1, 0.5, 1, 2, 5, 10];

/** Amplitude by rate: the layer as bars, the sum as a line. */
export function Spectrum({ layer, slug, revision }: { layer: Layer; slug: string; revision: number }) {
  const params = { path: { shot: slug, layer: layer.id } };
  const bands = useQuery({
    queryKey: ["spectrum", slug, layer.id, revision],
    queryFn: () => take<Bands>(client.GET("/api/shots/{shot}/spectrum/{layer}", { params })),
    placeholderData: (before) => before,
  });
  if (!bands.data) return null;
  const { rate_hz, layer_px, sum_px } = bands.data;
  const low = rate_hz[0] ?? 0.05;
  const high = rate_hz.at(-1) ?? 12;
  const x = (hz: number) => (Math.log(hz / low) / Math.log(high / low)) * (WIDTH - 24) + 12;
  const maximum = Math.max(1, ...sum_px, ...layer_px);
  const y = (px: number) => HEIGHT - FOOT - (px / maximum) * (HEIGHT - FOOT - 10);
  const bar = ((WIDTH - 24) / Math.max(rate_hz.length - 1, 1)) * 0.7;
  return (
    <figure>
      <svg
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        className="num w-full"
        role="img"
        aria-label="Spectrum of the layer and of the sum"
      >
        {MARKS_HZ.filter((hz) => hz > low && hz < high).map((hz) => (
          <g key={hz}>
            <line x1={x(hz)} x2={x(hz)} y1={0} y2={HEIGHT - FOOT} stroke="var(--color-base-300)" />
            <text x={x(hz)} y={HEIGHT - 2} fontSize="9" textAnchor="middle" fill="var(--graphite)">
              {hz} Hz
            </text>
          </g>
        ))}
        {rate_hz.map((hz, i) => (
          <rect
            key={hz}
            x={x(hz) - bar / 2}
            width={bar}
            y={y(layer_px[i] ?? 0)}
            height={HEIGHT - FOOT - y(layer_px[i] ?? 0)}
            fill="var(--color-primary)"
            opacity="0.55"
          />
        ))}
        <polyline
          points={rate_hz.map((hz, i) => `${x(hz)},${y(sum_px[i] ?? 0)}`).join(" ")}
          fill="none"
          stroke="var(--color-base-content)"
        />
        <text x={WIDTH - 2} y={9} fontSize="9" textAnchor="end" fill="var(--graphite)">
          {maximum.toFixed(0)} px
        </text>
      </svg>
      <figcaption className="cond text-(--graphite) text-xs">
        bars: this layer · line: the sum · swing on screen per ⅓ octave
      </figcaption>
    </figure>
  );
}
