/** Blur at rest: what is drawn for the frame shown while the shutter is open, once nothing moves. */
import { createStore } from "zustand/vanilla";
import { fetchStill, type Moments } from "../api/movies";
import { motion } from "./motion";
import { complain } from "./notes";
import { openShot, whenOpened } from "./openShot";
import { previewState } from "./preview";
import { transport } from "./transport";

const SUBFRAMES = 16;
const REST_MS = 250;

export type StillFrame = {
  /** It is wanted. */
  on: boolean;
  moments: Moments | null;
  /** The motion and the frame that the moments are of. */
  of: string;
};

const NOTHING = { moments: null, of: "" };

export const stillFrame = createStore<StillFrame>(() => ({ on: false, ...NOTHING }));

whenOpened(() => stillFrame.setState(NOTHING));

/** Switches the blur of the still picture. */
export function toggleBlur(): void {
  stillFrame.setState(({ on }) => ({ on: !on, ...NOTHING }));
  wait();
}

/** Key of the displayed content; null while it moves, or during a preview. */
function shown(): string | null {
  const { state } = openShot.getState();
  const { frame, playing } = transport.getState();
  const { command, revision } = previewState.getState();
  const { version, revision: drawn } = motion.getState();
  if (!state || playing || command || revision !== null || drawn !== state.revision) return null;
  return `${state.id} ${state.variant} ${state.revision} ${version} ${frame}`;
}

/** Drawings of the present frame, if loaded. */
export function stillNow(): Moments | null {
  const { on, moments, of } = stillFrame.getState();
  return on && of === shown() ? moments : null;
}

let timer = 0;

function wait(): void {
  clearTimeout(timer);
  const { moments, of } = stillFrame.getState();
  if (moments && of !== shown()) stillFrame.setState(NOTHING);
  if (stillFrame.getState().on) timer = window.setTimeout(() => void ask().catch(complain), REST_MS);
}

async function ask(): Promise<void> {
  const stillKey = shown();
  const { state } = openShot.getState();
  if (stillKey === null || !state || stillFrame.getState().of === stillKey) return;
  const moments = await fetchStill(state.slug, transport.getState().frame, SUBFRAMES);
  if (stillFrame.getState().on && stillKey === shown()) stillFrame.setState({ moments, of: stillKey });
}

for (const each of [transport, motion, previewState]) each.subscribe(wait);
