/** Blur at rest: what is drawn for the frame shown while the shutter is open, once nothing moves. */
import { createStore } from "zustand/vanilla";
import { fetchStill, type Moments } from "../api/movies";
import { motion } from "./motion";
import { complain } from "./notes";
import { openShot, whenOpened } from "./openShot";
import { transport } from "./transport";
import { trying } from "./trying";

const SUBFRAMES = 16;
const REST_MS = 250;

export type Still = {
  /** It is wanted. */
  on: boolean;
  moments: Moments | null;
  /** The motion and the frame that the moments are of. */
  of: string;
};

const NOTHING = { moments: null, of: "" };

export const still = createStore<Still>(() => ({ on: false, ...NOTHING }));

whenOpened(() => still.setState(NOTHING));

/** Blurs the picture at rest, or no longer. */
export function toggleBlur(): void {
  still.setState(({ on }) => ({ on: !on, ...NOTHING }));
  wait();
}

/** What stands for what is shown just now; nothing while it moves, or something is tried on. */
function shown(): string | null {
  const { state } = openShot.getState();
  const { frame, playing } = transport.getState();
  const { command, revision } = trying.getState();
  const { version, revision: drawn } = motion.getState();
  if (!state || playing || command || revision !== null || drawn !== state.revision) return null;
  return `${state.id} ${state.variant} ${state.revision} ${version} ${frame}`;
}

/** What is drawn for the present frame, where it is here already. */
export function stillNow(): Moments | null {
  const { on, moments, of } = still.getState();
  return on && of === shown() ? moments : null;
}

let timer = 0;

function wait(): void {
  clearTimeout(timer);
  const { moments, of } = still.getState();
  if (moments && of !== shown()) still.setState(NOTHING);
  if (still.getState().on) timer = window.setTimeout(() => void ask().catch(complain), REST_MS);
}

async function ask(): Promise<void> {
  const of = shown();
  const { state } = openShot.getState();
  if (of === null || !state || still.getState().of === of) return;
  const moments = await fetchStill(state.slug, transport.getState().frame, SUBFRAMES);
  if (still.getState().on && of === shown()) still.setState({ moments, of });
}

for (const each of [transport, motion, trying]) each.subscribe(wait);
