/** What several commands would do, side by side: the motion of each, in step with the shot. */
import { createStore } from "zustand/vanilla";
import type { Command } from "../api/types";
import { besides, type Motions } from "./besides";
import { complain } from "./notes";

export const trials = createStore<{ motions: Motions }>(() => ({ motions: {} }));

const { show, end } = besides(
  () => trials.getState().motions,
  (motions) => trials.setState({ motions }),
);

export const endTrials = end;

export function showTrials(commands: Record<string, Command>): Promise<void> {
  const asked = Object.entries(commands).map(([key, command]) => [key, { commands: [command] }]);
  return show(Object.fromEntries(asked), complain);
}
