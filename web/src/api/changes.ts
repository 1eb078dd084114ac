/** A state as differences from one that the page has: unchanged parts stay the same objects. */
import { take } from "./client";
import { envelope } from "./envelope";
import type { Changes, Clip, Lane, Shot, State } from "./types";

/** An unchanged part in a list, by its key. */
type Same = { same: string };
type Parts<T> = (T | Same)[];
type ToldClip = Omit<Clip, "layers"> & { layers: Parts<Clip["layers"][number]> };
type ToldLane = Omit<Lane, "clips"> & { clips: Parts<ToldClip> };
type ToldShot = Partial<Omit<Shot, "mounts" | "dials" | "cues" | "variants" | "lanes">> & {
  mounts?: Parts<Shot["mounts"][number]>;
  dials?: Parts<Shot["dials"][number]>;
  cues?: Parts<Shot["cues"][number]>;
  variants?: Parts<Shot["variants"][number]>;
  lanes?: Parts<ToldLane>;
};

/** Headers with the revision and the variant that the page has. */
export function having(state: State): { headers: Record<string, string> } {
  return { headers: { "zittern-have": String(state.revision), ...envelope(state.variant) } };
}

/** The state that a call answers with, all of it or what differs from `before`. */
export async function takeState(call: Parameters<typeof take>[0], before: State): Promise<State> {
  const answer = await take<State | Changes>(call);
  if (!("changes" in answer)) return answer;
  const { changes, changed_from: _, ...rest } = answer;
  return { ...rest, document: withChanges(before.document, changes as ToldShot) };
}

/** A document that is tried on, by what differs from the one that is kept. */
export function triedOn(before: Shot, changes: Record<string, unknown>): Shot {
  return withChanges(before, changes as ToldShot);
}

function withChanges(before: Shot, told: ToldShot): Shot {
  const { mounts, dials, cues, variants, lanes, ...fields } = told;
  const out: Shot = { ...before, ...fields };
  if (mounts) out.mounts = picked(mounts, before.mounts, idOf, (each) => each) as Shot["mounts"];
  if (dials)
    out.dials = picked(
      dials,
      before.dials,
      ({ name }) => name,
      (each) => each,
    );
  if (variants) out.variants = picked(variants, before.variants, idOf, (each) => each) as Shot["variants"];
  if (cues) out.cues = picked(cues, before.cues, idOf, (each) => each);
  if (lanes) out.lanes = withLanes(lanes, before.lanes);
  return out;
}

function withLanes(told: Parts<ToldLane>, before: Lane[]): Lane[] {
  const clips = before.flatMap((lane) => lane.clips);
  const layers = clips.flatMap((clip) => clip.layers);
  const clip = (each: ToldClip): Clip => ({ ...each, layers: picked(each.layers, layers, idOf, (layer) => layer) });
  const lane = (each: ToldLane): Lane => ({ ...each, clips: picked(each.clips, clips, idOf, clip) });
  return picked(told, before, idOf, lane);
}

function idOf({ id }: { id: string }): string {
  return id;
}

function picked<T, D extends object>(
  told: (D | Same)[],
  known: T[],
  keyOf: (part: T) => string,
  made: (part: D) => T,
): T[] {
  const byKey = new Map(known.map((part) => [keyOf(part), part]));
  return told.map((each) => {
    if (!("same" in each)) return made(each);
    const part = byKey.get(each.same);
    if (!part) throw new Error(`the server reported ${each.same} as unchanged, but it is missing here`);
    return part;
  });
}
