/** Effects of several commands, side by side: the motion of each, in step with the shot. */
import { createStore } from "zustand/vanilla";
import type { Command } from "../api/types";
import { complain } from "./notes";
import { type Motions, parallelMotions } from "./parallelMotions";

export const trials = createStore<{ motions: Motions }>(() => ({ motions: {} }));

const { show, end } = parallelMotions(
  () => trials.getState().motions,
  (motions) => trials.setState({ motions }),
);

export const endTrials = end;

export function showTrials(commands: Record<string, Command>): Promise<void> {
  const requests = Object.entries(commands).map(([key, command]) => [key, { commands: [command] }]);
  return show(Object.fromEntries(requests), complain);
}
