import { useEffect, useState } from "react";
import { transport } from "../stores/transport";

const EVERY_MS = 100;

/** The present frame; while it plays it is followed about ten times a second, if it is to be followed at all. */
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
