/** Motions next to the shot's own, in step with it: of previewed commands, of variants, revisions, other shots. */
import { fetchMotion } from "../api/motion";
import type { Command } from "../api/types";
import { lookedAt, type Motion, motion } from "./motion";
import { openShot } from "./openShot";
import { transport } from "./transport";

export type Motions = Record<string, Motion>;

/** Origin of a motion: by default the open shot's present revision and variant. */
export type MotionRequest = { commands?: Command[]; shot?: string; revision?: number; variant?: string | null };

/** Works motions out one after another; what is asked for later takes the place of what is still on its way. */
export function parallelMotions(now: () => Motions, put: (motions: Motions) => void) {
  let turn = 0;
  const end = () => {
    turn += 1;
    put({});
  };
  const show = async (asked: Record<string, MotionRequest>, failed: (error: unknown, key: string) => void) => {
    const mine = ++turn;
    const { state } = openShot.getState();
    put(Object.fromEntries(Object.entries(now()).filter(([key]) => key in asked)));
    if (!state) return;
    for (const [key, { commands = [], shot = state.slug, revision = null, ...there }] of Object.entries(asked)) {
      const { frame, loop } = transport.getState();
      const look = { frame, loop, revision, window: lookedAt(), curves: [], told: false, ...there };
      try {
        const { head, arrays, layerTags } = await fetchMotion(shot, commands, now()[key] ?? motion.getState(), look);
        if (mine !== turn) return;
        const { first_frame: first, last_frame: last, rows, exact, readings } = head;
        put({ ...now(), [key]: { ...motion.getState(), first, last, rows, exact, arrays, readings, layerTags } });
      } catch (error) {
        if (mine === turn) failed(error, key);
      }
    }
  };
  return { show, end };
}
