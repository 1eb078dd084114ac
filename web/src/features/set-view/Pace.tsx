import { useFrame, useThree } from "@react-three/fiber";
import { useEffect, useRef } from "react";
import { useStore } from "zustand";
import { transport } from "../../stores/transport";
import { stage } from "./stageStore";

const SLOW_MS = 55;
const FRAMES_JUDGED = 6;
const LIGHT_DPR = 0.55;

/** Keeps playback judgeable on slow machines: pictures get coarser while playing, and shadows go for good. */
export function Pace() {
  const setDpr = useThree((state) => state.setDpr);
  const playing = useStore(transport, (state) => state.playing);
  const times = useRef<number[]>([]);
  useEffect(() => {
    times.current = [];
    setDpr(playing && stage.getState().slow ? LIGHT_DPR : 1);
  }, [playing, setDpr]);
  useFrame(() => {
    if (!transport.getState().playing || stage.getState().slow) return;
    times.current.push(performance.now());
    const [start] = times.current;
    if (times.current.length <= FRAMES_JUDGED || start === undefined) return;
    const each = (performance.now() - start) / FRAMES_JUDGED;
    times.current = [];
    if (each > SLOW_MS) {
      stage.setState({ slow: true });
      setDpr(LIGHT_DPR);
    }
  });
  return null;
}
