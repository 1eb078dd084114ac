/** The motion last heard of, and the feed that asks for it: one question at a time, the newest wins. */
import { createStore } from "zustand/vanilla";
import { fetchMotion, type MotionArray } from "../api/motion";
import type { Command, Readings } from "../api/types";
import { wantedNumbers } from "./numbers";
import { transport } from "./transport";

export type Motion = {
  shot: string | null;
  /** Revision that the arrays belong to. */
  revision: number | null;
  version: number;
  first: number;
  frames: number;
  arrays: Map<string, MotionArray>;
  readings: Readings | null;
};

const EMPTY: Motion = {
  shot: null,
  revision: null,
  version: 0,
  first: 1,
  frames: 0,
  arrays: new Map(),
  readings: null,
};

export const motion = createStore<Motion>(() => EMPTY);

let wanted: { shot: string; commands: Command[]; revision: number | null; done: ((error?: unknown) => void)[] } | null =
  null;
let asking = false;

/** Time from asking for samples until they are applied; `zittern bench --browser` reads it. */
const APPLIED = "samples-applied";

/** Asks for motion with commands tried on. Earlier questions that are still waiting are dropped for this one. */
export function feed(shot: string, commands: Command[], revision: number | null = null): Promise<void> {
  return new Promise((resolve, reject) => {
    const done = [...(wanted?.done ?? []), (error?: unknown) => (error ? reject(error) : resolve())];
    wanted = { shot, commands, revision, done };
    void ask();
  });
}

export function forgetMotion(): void {
  wanted = null;
  motion.setState(EMPTY);
}

async function ask(): Promise<void> {
  if (asking) return;
  asking = true;
  while (wanted) {
    const { shot, commands, revision, done } = wanted;
    wanted = null;
    const asked = performance.now();
    try {
      const known = motion.getState();
      const have = known.shot === shot ? known.arrays : new Map<string, MotionArray>();
      const { head, arrays } = await fetchMotion(
        shot,
        commands,
        transport.getState().frame,
        have,
        revision,
        wantedNumbers(),
      );
      motion.setState((state) => ({
        shot,
        revision: head.revision,
        version: state.version + 1,
        first: head.first_frame,
        frames: head.frames,
        arrays,
        readings: head.readings,
      }));
      performance.measure(APPLIED, { start: asked, end: performance.now() });
      for (const each of done) each();
    } catch (error) {
      for (const each of done) each(error);
    }
  }
  asking = false;
}

/** Row of a frame in the arrays. */
export function rowOf(frame: number, state: Motion = motion.getState()): number {
  return Math.min(Math.max(Math.round(frame) - state.first, 0), Math.max(state.frames - 1, 0));
}
