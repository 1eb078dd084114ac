import { keysOf } from "../api/param";
import type { MoveField, Param, Shot } from "../api/types";
import { serverTables } from "../stores/serverTables";

export type PinKey = { at: string; title: string; interp: string };

/** Framing targets of the operator: their keys are pins too. */
function placesOf(shot: Shot, only: string | null): { at: string; title: string; param: Param }[] {
  return shot.mounts.flatMap(({ id, operator }) => {
    if (!operator || (only !== null && only !== id)) return [];
    const { across_percent: across, up_percent: up } = operator;
    return [
      { at: `mount:${id}.operator.across_percent`, title: "place across", param: across },
      { at: `mount:${id}.operator.up_percent`, title: "place up", param: up },
    ].flatMap(({ param, ...named }) => (param ? [{ ...named, param }] : []));
  });
}

/** Cached result for an unchanged document, by the requested mount. */
const KNOWN = new WeakMap<Shot, Map<string | null, Map<number, PinKey[]>>>();

/** Frames with pins, each with the keys that stand there: of one mount, or of every one and of the focal length. */
export function pinTitles(shot: Shot, only: string | null = null): Map<number, PinKey[]> {
  const known = KNOWN.get(shot) ?? new Map<string | null, Map<number, PinKey[]>>();
  KNOWN.set(shot, known);
  const found = known.get(only) ?? gathered(shot, only);
  known.set(only, found);
  return found;
}

function gathered(shot: Shot, only: string | null): Map<number, PinKey[]> {
  const pins = new Map<number, PinKey[]>();
  // For a whole rig, each has the name of its mount.
  const named = (mount: string, title: string) =>
    only === null && shot.mounts.length > 1 ? `${mount} ${title}` : title;
  const numbers = serverTables().forms.move.flatMap(({ field, title, group }) =>
    group === "lens"
      ? only === null
        ? [{ at: `shot.${field}`, title, param: shot.focal_mm }]
        : []
      : shot.mounts
          .filter(({ id }) => only === null || id === only)
          .map((mount) => ({
            at: `mount:${mount.id}.${field}`,
            title: named(mount.name, title),
            param: mount[field as MoveField],
          })),
  );
  for (const { at, title, param } of [...numbers, ...placesOf(shot, only)])
    for (const key of keysOf(param)) {
      const here = pins.get(key.frame);
      if (here) here.push({ at, title, interp: key.interp });
      else pins.set(key.frame, [{ at, title, interp: key.interp }]);
    }
  return new Map([...pins].sort(([a], [b]) => a - b));
}

/** Frames at which the move, or one mount of it, has a key, in order. */
export function moveFrames(shot: Shot, only: string | null = null): number[] {
  return [...pinTitles(shot, only).keys()];
}
