import { useEffect, useState } from "react";
import { transport } from "../stores/transport";

const EVERY_MS = 100;

/** The present frame; during playback it is updated about ten times per second, if it is followed. */
export function useFollowedFrame(follow: boolean): number {
  const [frame, setFrame] = useState(transport.getState().frame);
  useEffect(() => {
    let lastFrame = 0;
    return transport.subscribe((state) => {
      const now = performance.now();
      if (state.playing && (!follow || now - lastFrame < EVERY_MS)) return;
      lastFrame = now;
      setFrame(state.frame);
    });
  }, [follow]);
  return frame;
}
