import { useFrame, useThree } from "@react-three/fiber";
import { useEffect, useRef } from "react";
import { useStore } from "zustand";
import { drawsInSoftware } from "../../shared/renderer";
import { previewState } from "../../stores/preview";
import { stage } from "../../stores/stage";
import { transport } from "../../stores/transport";

const SLOW_MS = 55;
const FRAMES_JUDGED = 6;
/** Frames come so many times later than they should. */
const LATE = 1.5;
const REST_MS = 300;

/** Keeps motion judgeable on slow machines: pictures get coarser while something moves, and shadows go for good. */
export function Pace() {
  const gl = useThree((state) => state.gl);
  const playing = useStore(transport, (state) => state.playing);
  const isPreviewing = useStore(previewState, (state) => state.command !== null);
  const scrubbing = useStore(transport, (state) => state.scrubbing);
  const slow = useStore(stage, (state) => state.slow);
  const times = useRef<number[]>([]);
  useEffect(() => {
    // Asking whether shaders are in order waits for each of them.
    gl.debug.checkShaderErrors = import.meta.env.DEV;
    if (drawsInSoftware()) stage.setState({ slow: true });
  }, [gl]);
  useEffect(() => {
    times.current = [];
    const coarse = slow && (playing || isPreviewing || scrubbing);
    if (coarse) stage.setState({ coarse });
    // The change is saved first; the fine picture can wait.
    const later = setTimeout(() => stage.setState({ coarse }), REST_MS);
    return () => clearTimeout(later);
  }, [slow, playing, isPreviewing, scrubbing]);
  useFrame(() => {
    if (!transport.getState().playing || stage.getState().slow) return;
    times.current.push(performance.now());
    const [start] = times.current;
    if (times.current.length <= FRAMES_JUDGED || start === undefined) return;
    const each = (performance.now() - start) / FRAMES_JUDGED;
    times.current = [];
    // A shot of few frames per second is not a slow machine.
    if (each > Math.max(SLOW_MS, (LATE * 1000) / transport.getState().fps)) stage.setState({ slow: true });
  });
  return null;
}
