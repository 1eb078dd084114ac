/** THE TABLE of fields that the sources show: names as in the document, units and limits for dragging. */
import type { Layer } from "../api/types";

export type Source = Layer["source"];
export type SourceOf<K extends Source["kind"]> = Extract<Source, { kind: K }>;

/** How a number is shown and dragged. */
export type NumberLook = {
  unit: string;
  /** What is shown is this many times what is stored: 100 for percentages, 60 for beats a minute. */
  times?: number;
  speed: number;
  least: number;
  most: number;
  digits?: number;
  scales?: boolean;
};

/** A field of a source: a number, a choice or a switch, by the name it has in the document. */
export type SourceField<S> = { field: Extract<keyof S, string>; title: string } & (
  | ({ is: "number" } & NumberLook)
  | { is: "choice"; choices: readonly (string | number)[] }
  | { is: "switch"; hint: string }
);

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

/** The fields of a source. */
export function fieldsOf(source: Source): SourceField<Source>[] {
  return (SOURCE_FIELDS[source.kind] as (source: Source) => SourceField<Source>[])(source);
}
