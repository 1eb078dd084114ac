import { useStore } from "zustand";
import { fromOutside, level, square } from "../../acts/placing";
import type { Shot } from "../../api/types";
import { view } from "../../stores/view";
import { AimBar } from "./AimBar";

/** Placing the camera: fly, from the Set view, at the subject, level, square. */
export function PlaceBar({ document }: { document: Shot }) {
  const flying = useStore(view, (state) => state.flying);
  const button = (title: string, hint: string, run: () => void) => (
    <button type="button" className="btn btn-xs" title={hint} onClick={run}>
      {title}
    </button>
  );
  return (
    <section className="flex flex-col gap-1" aria-label="Place the camera">
      <span className="cond text-(--graphite) text-xs">place the camera</span>
      <div className="flex flex-wrap gap-1">
        <button
          type="button"
          className={`btn btn-xs ${flying ? "btn-primary" : ""}`}
          aria-pressed={flying}
          title="Drag in the Viewfinder to look, Shift-drag to shift, wheel to dolly (V)"
          onClick={() => view.setState({ flying: !flying })}
        >
          Fly in the Viewfinder
        </button>
        {button("Move camera to the Set view's eye", "Moves the camera to the Set view's eye", fromOutside)}
        {button("Level", "Roll to zero", level)}
        {button("Square", "Pan, tilt and roll to the nearest 90°", square)}
        {document.subject && <AimBar subject={document.subject.name} />}
      </div>
    </section>
  );
}
