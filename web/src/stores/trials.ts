/** What several commands would do, side by side: the motion of each, in step with the shot. */
import { createStore } from "zustand/vanilla";
import { fetchMotion } from "../api/motion";
import type { Command } from "../api/types";
import { lookedAt, type Motion, motion } from "./motion";
import { complain } from "./notes";
import { openShot } from "./openShot";
import { transport } from "./transport";

export const trials = createStore<{ motions: Record<string, Motion> }>(() => ({ motions: {} }));

let turn = 0;

export function endTrials(): void {
  turn += 1;
  trials.setState({ motions: {} });
}

/** Works out each command's motion, one after another; what is asked for later takes the place of what is still on its way. */
export async function showTrials(commands: Record<string, Command>): Promise<void> {
  const mine = ++turn;
  const { state } = openShot.getState();
  const keys = Object.keys(commands);
  trials.setState(({ motions }) => ({
    motions: Object.fromEntries(Object.entries(motions).filter(([key]) => keys.includes(key))),
  }));
  if (!state) return;
  for (const [key, command] of Object.entries(commands)) {
    const before = motion.getState();
    const { frame, loop } = transport.getState();
    const look = { frame, loop, revision: null, window: lookedAt(), curves: [], told: false };
    try {
      const { head, arrays } = await fetchMotion(state.slug, [command], before, look);
      if (mine !== turn) return;
      const made = {
        ...before,
        first: head.first_frame,
        last: head.last_frame,
        rows: head.rows,
        exact: head.exact,
        arrays,
      };
      trials.setState(({ motions }) => ({ motions: { ...motions, [key]: made } }));
    } catch (error) {
      if (mine === turn) complain(error);
    }
  }
}
