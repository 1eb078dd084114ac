import { useEffect, useRef } from "react";
import { say } from "../../shared/say";
import { motion, rowOf } from "../../stores/motion";
import { transport } from "../../stores/transport";
import { view } from "../../stores/view";

const POSE_FOCAL = 6;
const WHOLE_MM = 100;

/** Present focal length, and the pose as data of the pane, written straight into the page as frames go by. */
export function useFocal(pane: HTMLElement | null): React.RefObject<HTMLSpanElement | null> {
  const ref = useRef<HTMLSpanElement>(null);
  useEffect(() => {
    const show = () => {
      const pose = motion.getState().arrays.get(view.getState().bypass ? "bare" : "pose");
      if (!ref.current || !pose) return;
      const at = rowOf(transport.getState().frame) * pose.columns;
      const focal = pose.data[at + POSE_FOCAL] ?? 0;
      if (pane) pane.dataset.pose = [...pose.data.slice(at, at + POSE_FOCAL)].join(" ");
      say(ref.current, `${focal.toFixed(focal < WHOLE_MM ? 1 : 0)} mm`);
    };
    show();
    const stops = [motion.subscribe(show), transport.subscribe(show), view.subscribe(show)];
    return () => {
      for (const stop of stops) stop();
    };
  }, [pane]);
  return ref;
}
