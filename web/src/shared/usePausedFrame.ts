import { useEffect, useState } from "react";
import { transport } from "../stores/transport";

/** The present frame, followed while it does not play. */
export function usePausedFrame(): number {
  const [frame, setFrame] = useState(transport.getState().frame);
  useEffect(
    () =>
      transport.subscribe((state) => {
        if (!state.playing) setFrame(state.frame);
      }),
    [],
  );
  return frame;
}
