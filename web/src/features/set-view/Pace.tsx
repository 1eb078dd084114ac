import { useFrame, useThree } from "@react-three/fiber";
import { useEffect, useRef } from "react";
import { useStore } from "zustand";
import { drawsInSoftware } from "../../shared/renderer";
import { session } from "../../stores/session";
import { transport } from "../../stores/transport";
import { stage } from "./stageStore";

const SLOW_MS = 55;
const FRAMES_JUDGED = 6;
const LIGHT_DPR = 0.55;

/** Keeps motion judgeable on slow machines: pictures get coarser while playing or dragging, and shadows go for good. */
export function Pace() {
  const setDpr = useThree((state) => state.setDpr);
  const playing = useStore(transport, (state) => state.playing);
  const trying = useStore(session, (state) => state.trying);
  const times = useRef<number[]>([]);
  useEffect(() => {
    times.current = [];
    if (trying && drawsInSoftware()) stage.setState({ slow: true });
    setDpr((playing || trying) && stage.getState().slow ? LIGHT_DPR : 1);
  }, [playing, trying, setDpr]);
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
