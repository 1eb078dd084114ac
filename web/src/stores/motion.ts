/** The last received motion, and the feed that requests it: one request at a time, the newest wins. */
import { createStore } from "zustand/vanilla";
import { shownVariant } from "../api/envelope";
import { fetchMotion, type Known, NOTHING } from "../api/motion";
import type { Command } from "../api/types";
import { wantedNumbers } from "./numbers";
import { transport } from "./transport";
import { view } from "./view";

export type Motion = Known & {
  shot: string | null;
  /** Revision that the arrays belong to. */
  revision: number | null;
  version: number;
  first: number;
  last: number;
  /** Rows of each array: one a frame, or fewer of a long shot. */
  rows: number;
  /** Stretches [first, last] in which every whole frame has its row. */
  exact: [number, number][];
  /** The widest window in which all frames come. */
  close: number;
  /** The variant that it was asked about. */
  variant: string | null;
  /** Differences of the previewed document from that of `revision`, if requested. */
  tried: Record<string, unknown> | null;
};

const EMPTY: Motion = {
  shot: null,
  revision: null,
  version: 0,
  first: 1,
  last: 1,
  rows: 0,
  exact: [],
  close: 0,
  variant: null,
  tried: null,
  ...NOTHING,
};

export const motion = createStore<Motion>(() => EMPTY);

/** Whether an answer about a revision is too late to be shown; `followed`: the next request is waiting. */
type Late = (answered: number, followed: boolean) => boolean;

type Options = { revision: number | null; told: boolean; late: Late };
type Question = Options & { shot: string; commands: Command[]; done: ((error?: unknown) => void)[] };

let nextQuestion: Question | null = null;
let asking = false;

/** Time from asking for samples until they are applied, of storing them, and until the next picture; `zittern bench --browser` reads them. */
const APPLIED = "samples-applied";
const STORED = "samples-stored";
const DRAWN = "samples-drawn";

/** Asks for motion with commands tried on. Earlier questions that are still waiting are dropped for this one, and have no part in what is wrong with it. */
export function feed(
  shot: string,
  commands: Command[],
  { revision = null, told = false, late = () => false }: Partial<Options> = {},
): Promise<void> {
  return new Promise((resolve, reject) => {
    const earlier = (nextQuestion?.done ?? []).map((each) => () => each());
    const done = [...earlier, (error?: unknown) => (error ? reject(error) : resolve())];
    nextQuestion = { shot, commands, revision, told, late, done };
    void ask();
  });
}

/** Counts the times that all was forgotten: an answer to a question from before is dropped. */
let forgotten = 0;

export function forgetMotion(): void {
  nextQuestion = null;
  forgotten += 1;
  motion.setState(EMPTY);
}

async function ask(): Promise<void> {
  if (asking) return;
  asking = true;
  while (nextQuestion) {
    const { shot, commands, revision, told, late, done } = nextQuestion;
    nextQuestion = null;
    const askedAt = performance.now();
    const before = forgotten;
    const variant = shownVariant();
    try {
      const known = motion.getState();
      const { frame, loop } = transport.getState();
      const { head, arrays, layerTags } = await fetchMotion(shot, commands, known.shot === shot ? known : NOTHING, {
        frame,
        revision,
        window: lookedAt(),
        loop,
        curves: wantedNumbers(),
        told,
      });
      const stored = performance.now();
      if (before === forgotten && !late(head.revision, nextQuestion !== null))
        motion.setState((state) => ({
          shot,
          revision: head.revision,
          version: state.version + 1,
          first: head.first_frame,
          last: head.last_frame,
          rows: head.rows,
          exact: head.exact,
          close: head.close_frames,
          variant,
          tried: head.tried ?? null,
          arrays,
          readings: head.readings,
          layerTags,
        }));
      const end = performance.now();
      performance.measure(STORED, { start: stored, end });
      performance.measure(APPLIED, { start: askedAt, end });
      requestAnimationFrame(() => performance.measure(DRAWN, { start: end }));
      for (const each of done) each();
    } catch (error) {
      for (const each of done) each(error);
    }
  }
  asking = false;
}

/** The frames in view, as whole ones. */
export function lookedAt(): [number, number] {
  const { window, rowsInView } = view.getState();
  const [first, last] = rowsInView ?? window;
  return [Math.floor(first), Math.ceil(last)];
}

/** Row of a frame in the arrays, or the nearest. */
export function rowOf(frame: number, state: Motion = motion.getState()): number {
  const maxRow = Math.max(state.rows - 1, 0);
  const frames = state.arrays.get("frames")?.data;
  if (!frames) return Math.min(Math.max(Math.round(frame) - state.first, 0), maxRow);
  const after = firstRowFrom(frames, frame);
  const before = Math.max(after - 1, 0);
  return (frames[Math.min(after, maxRow)] ?? 0) - frame < frame - (frames[before] ?? 0)
    ? Math.min(after, maxRow)
    : before;
}

/** Frame of a row. */
export function frameAt(row: number, state: Motion = motion.getState()): number {
  return state.arrays.get("frames")?.data[row] ?? state.first + row;
}

/** First and last row that a stretch of frames needs to be drawn from edge to edge. */
export function rowsWithin(from: number, to: number, state: Motion = motion.getState()): [number, number] {
  const maxRow = state.rows - 1;
  const frames = state.arrays.get("frames")?.data;
  if (!frames) return [Math.max(0, Math.floor(from - state.first)), Math.min(maxRow, Math.ceil(to - state.first))];
  return [Math.max(0, firstRowFrom(frames, from) - 1), Math.min(maxRow, firstRowFrom(frames, to))];
}

/** Whether all whole frames from one to another have their own rows. */
export function isExact(from: number, to: number, state: Motion = motion.getState()): boolean {
  return state.exact.some(([first, last]) => first <= Math.max(from, state.first) && Math.min(to, state.last) <= last);
}

/** Number of rows whose frame comes before a frame. */
function firstRowFrom(frames: Float32Array, frame: number): number {
  let low = 0;
  let high = frames.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((frames[middle] ?? 0) < frame) low = middle + 1;
    else high = middle;
  }
  return low;
}
