/** THE TABLE of fields that the sources show: names as in the document, units and limits for dragging. */
import type { Source, SourceField, SourceOf } from "./SourceForm";

type Fields = { [K in Source["kind"]]: (source: SourceOf<K>) => SourceField<SourceOf<K>>[] };

const LOOP = {
  is: "switch",
  field: "loop",
  title: "loop",
  hint: "The first frame follows the last without a jump",
} as const;

const PERCENT = { is: "number", unit: "%", times: 100, speed: 0.5, least: 0, most: 100, digits: 0 } as const;

const rate = (most: number, speed = 0.02) =>
  ({ is: "number", field: "rate_hz", title: "rate", unit: "Hz", speed, least: 0, most, scales: true }) as const;

const A_MINUTE = { is: "number", field: "rate_hz", times: 60, least: 0 } as const;

export const SOURCE_FIELDS: Fields = {
  noise: () => [
    rate(500),
    { is: "choice", field: "octaves", title: "octaves", choices: [1, 2, 3, 4, 5, 6, 7, 8] },
    { ...PERCENT, field: "persistence", title: "persistence" },
    LOOP,
  ],
  wave: ({ beats }) => [
    beats ? { ...A_MINUTE, title: "rate", unit: "bpm", speed: 1, most: 30000, scales: true } : rate(500),
    { is: "switch", field: "beats", title: "in beats", hint: "Read the rate in beats a minute" },
    { is: "choice", field: "shape", title: "shape", choices: ["sine", "triangle", "soft square", "saw", "pulse"] },
  ],
  drift: () => [rate(10, 0.01), LOOP],
  tremor: () => [
    { is: "number", field: "centre_hz", title: "centre", unit: "Hz", speed: 0.05, least: 0.1, most: 60, digits: 1 },
    { is: "number", field: "width_hz", title: "width ±", unit: "Hz", speed: 0.02, least: 0, most: 20, digits: 1 },
    LOOP,
  ],
  breath: () => [
    { ...A_MINUTE, title: "breaths", unit: "/min", speed: 0.2, most: 180, digits: 1 },
    { ...PERCENT, field: "exertion", title: "exertion" },
    LOOP,
  ],
  cycle: () => [rate(100)],
  keys: () => [],
};
