/** The displayed frame, and playback. Views read it in their draw loops; they do not re-render for it. */
import { createStore } from "zustand/vanilla";

export type Transport = {
  first: number;
  last: number;
  fps: number;
  frame: number;
  playing: boolean;
  /** The playhead is being dragged. */
  scrubbing: boolean;
  looping: boolean;
  /** Something is recorded: one pass, which ends with the range. */
  recording: boolean;
  loop: [number, number] | null;
};

export const transport = createStore<Transport>(() => ({
  first: 1,
  last: 1,
  fps: 24,
  frame: 1,
  playing: false,
  scrubbing: false,
  looping: true,
  recording: false,
  loop: null,
}));

/** The stretch that plays. */
export function playRange(state: Transport = transport.getState()): [number, number] {
  return state.loop ?? [state.first, state.last];
}

export function seek(frame: number): void {
  const { first, last } = transport.getState();
  const clamped = Math.min(last, Math.max(first, Math.round(frame)));
  // While it plays it goes on from there.
  origin = { time: performance.now(), frame: clamped };
  if (clamped !== transport.getState().frame) transport.setState({ frame: clamped });
}

export function step(by: number): void {
  pause();
  seek(transport.getState().frame + by);
}

let ticking = 0;
/** When and from which frame on it plays. */
let origin = { time: 0, frame: 1 };

export function play(): void {
  const [from, to] = playRange();
  const { frame } = transport.getState();
  if (frame < from || frame >= to) seek(from);
  transport.setState({ playing: true });
  origin = { time: performance.now(), frame: transport.getState().frame };
  cancelAnimationFrame(ticking);
  const tick = (now: number) => {
    const state = transport.getState();
    if (!state.playing) return;
    const [start, stop] = playRange(state);
    const count = stop - start + 1;
    const run = Math.floor(((now - origin.time) / 1000) * state.fps) + origin.frame - start;
    if ((!state.looping || state.recording) && run >= count) {
      transport.setState({ frame: stop, playing: false });
      return;
    }
    const next = start + (((run % count) + count) % count);
    if (next !== state.frame) transport.setState({ frame: next });
    ticking = requestAnimationFrame(tick);
  };
  ticking = requestAnimationFrame(tick);
}

export function pause(): void {
  transport.setState({ playing: false });
}

export function togglePlay(): void {
  if (transport.getState().playing) pause();
  else play();
}
