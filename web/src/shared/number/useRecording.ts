import { useRef } from "react";
import type { Command } from "../../api/types";
import { transport } from "../../stores/transport";

type Recording = { value: number; samples: Map<number, number>; stop: () => void };

/** Records where a number is held at each frame that goes by, for as long as it is held. Nothing is recorded while the shot stands. */
export function useRecording(at: string, active: boolean) {
  const now = useRef<Recording | null>(null);
  /** The number is held at a value: the command that keeps what was recorded, or null when nothing is being recorded. */
  const hold = (value: number): Command | null => {
    if (!active || !(now.current || transport.getState().playing)) return null;
    if (!now.current) {
      const samples = new Map<number, number>();
      const stop = transport.subscribe(({ frame }) => samples.set(frame, now.current?.value ?? value));
      now.current = { value, samples, stop };
    }
    now.current.value = value;
    now.current.samples.set(transport.getState().frame, value);
    return command(now.current.samples);
  };
  const command = (samples: Map<number, number>): Command => ({
    type: "record_keys",
    at,
    samples: [...samples].map(([frame, value]) => ({ frame, value })),
  });
  /** Let go: what was recorded, or null. */
  const release = (): Command | null => {
    const recording = now.current;
    now.current = null;
    recording?.stop();
    return recording ? command(recording.samples) : null;
  };
  return { hold, release };
}
