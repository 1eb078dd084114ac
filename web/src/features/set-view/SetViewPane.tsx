import { useEffect, useRef } from "react";
import { useStore } from "zustand";
import { motion } from "../../stores/motion";
import { view } from "../../stores/view";
import { PiecesMenu } from "./PiecesMenu";
import { stage } from "./stageStore";

/** The pane of the Set view; dragging in it turns the outside view. */
export function SetViewPane() {
  const ref = useRef<HTMLDivElement>(null);
  const readings = useStore(motion, (state) => state.readings);
  const problem = useStore(stage, (state) => state.setProblem);
  const grip = useStore(stage, (state) => state.grip);
  const picking = useStore(view, (state) => state.picking);
  const ready = useStore(stage, (state) => state.ready);
  useEffect(() => {
    stage.setState({ outside: ref.current });
    return () => stage.setState({ outside: null });
  }, []);
  return (
    <div
      ref={ref}
      className={`relative h-full w-full overflow-hidden ${picking ? "cursor-crosshair" : grip ? "cursor-pointer" : "cursor-grab active:cursor-grabbing"}`}
      data-testid="set-view"
      data-set={ready ? "ready" : "loading"}
    >
      <span className="cond pointer-events-none absolute top-2 select-none left-2 rounded-sm bg-base-100/80 px-2 py-0.5 text-xs">
        Set view
        {picking && <b className="ml-2 text-info">click the point to look at · Escape leaves it</b>}
        {!picking && grip && <b className="num ml-2 text-info">{grip.text}</b>}
      </span>
      <PiecesMenu />
      {problem && (
        <span
          role="alert"
          className="absolute inset-x-8 top-10 rounded-sm bg-error px-3 py-2 text-sm text-error-content"
        >
          {problem}
        </span>
      )}
      {readings && (
        <span className="num pointer-events-none absolute bottom-2 left-2 rounded-sm bg-base-100/80 px-2 py-0.5 text-[11px]">
          lens {readings.camera_height_m.toFixed(2)} m high · moving {readings.camera_speed_m_s.toFixed(2)} m/s
        </span>
      )}
    </div>
  );
}
