import { useRef } from "react";
import type { Command } from "../../api/types";
import { transport } from "../../stores/transport";

export type Sample<T> = { frame: number; value: T };
type Recording<T> = { value: T; samples: Map<number, T>; stop: () => void };

/** Records where something is held at each frame that goes by, for one pass of the range. Nothing is recorded while the shot stands. */
export function useRecording<T>(active: boolean, command: (samples: Sample<T>[]) => Command) {
  const now = useRef<Recording<T> | null>(null);
  /** It is held at a value: the command that keeps what was recorded, or null when nothing is being recorded. */
  const hold = (value: T): Command | null => {
    if (!active || !(now.current || transport.getState().playing)) return null;
    if (!now.current) {
      const samples = new Map<number, T>();
      const stop = transport.subscribe(({ frame }) => samples.set(frame, now.current?.value ?? value));
      now.current = { value, samples, stop };
      transport.setState({ recording: true });
    }
    now.current.value = value;
    now.current.samples.set(transport.getState().frame, value);
    return commandOf(now.current.samples);
  };
  const commandOf = (samples: Map<number, T>) => command([...samples].map(([frame, value]) => ({ frame, value })));
  /** Let go: what was recorded, or null. */
  const release = (): Command | null => {
    const recording = now.current;
    now.current = null;
    recording?.stop();
    if (recording) transport.setState({ recording: false });
    return recording ? commandOf(recording.samples) : null;
  };
  return { hold, release };
}
