import { useEffect, useRef } from "react";
import { useStore } from "zustand";
import { shown, useFlow } from "../../shared/useFlow";
import { fitPath, hang, SET_VIEW, stage } from "../../stores/stage";
import { view } from "../../stores/view";
import { PiecesMenu } from "./PiecesMenu";

const PICK = { subject: "click the point to look at", cue: "click where the cue is" };

/** The pane of the Set view; dragging in it turns the outside view. */
export function SetViewPane() {
  const ref = useRef<HTMLDivElement>(null);
  const problem = useStore(stage, (state) => state.setProblem);
  const grip = useStore(stage, (state) => state.grip);
  const picking = useStore(view, (state) => state.picking);
  const readings = useStore(view, (state) => state.readings);
  const ready = useStore(stage, (state) => state.ready);
  const flow = useFlow(({ heightM, speedMS }) => `lens ${shown(heightM, 2)} m high · speed ${shown(speedMS, 2)} m/s`);
  useEffect(() => {
    return ref.current ? hang({ id: SET_VIEW, element: ref.current, camera: "outside" }) : undefined;
  }, []);
  const cursor = picking ? "cursor-crosshair" : grip ? "cursor-pointer" : "cursor-grab active:cursor-grabbing";
  return (
    <div
      ref={ref}
      className={`relative h-full w-full select-none overflow-hidden ${cursor}`}
      data-testid="set-view"
      data-set={ready ? "ready" : "loading"}
    >
      <span className="cond pointer-events-none absolute top-2 left-2 rounded-sm bg-base-100/80 px-2 py-0.5 text-xs">
        Set view
        {picking && <b className="ml-2 text-info">{PICK[picking]} · Esc to leave</b>}
        {!picking && grip && <b className="num ml-2 text-info">{grip.text}</b>}
      </span>
      <div className="absolute top-2 right-2 flex gap-1">
        <button
          type="button"
          className="cond min-h-6 rounded-sm bg-base-100/80 px-2 text-xs"
          title="Fit the whole path in the Set view (Shift F)"
          onClick={fitPath}
        >
          whole path
        </button>
        <PiecesMenu />
      </div>
      {problem && (
        <span
          role="alert"
          className="absolute inset-x-8 top-10 select-text rounded-sm bg-error px-3 py-2 text-error-content text-sm"
        >
          {problem}
        </span>
      )}
      <span
        ref={flow}
        hidden={!readings}
        className="num pointer-events-none absolute bottom-2 left-2 rounded-sm bg-base-100/80 px-2 py-0.5 text-[11px] empty:hidden"
        data-testid="set-flow"
      />
    </div>
  );
}
