import { useStore } from "zustand";
import type { Shot } from "../../api/types";
import { view } from "../../stores/view";
import { aim, FILLS, fromOutside, level, square } from "./doings";

/** Placing the camera: fly, from the Set view, at the subject, level, square. */
export function PlaceBar({ document }: { document: Shot }) {
  const flying = useStore(view, (state) => state.flying);
  const button = (title: string, hint: string, run: () => void) => (
    <button key={title} type="button" className="btn btn-xs" title={hint} onClick={run}>
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
          title="Drag in the Viewfinder turns, Shift-drag shifts, wheel goes forward (V)"
          onClick={() => view.setState({ flying: !flying })}
        >
          Fly in the Viewfinder
        </button>
        {button("Camera where I look from", "Puts the camera where the Set view looks from", fromOutside)}
        {button("Level", "Roll to zero", level)}
        {button("Square", "Pan, tilt and roll to the nearest 90°", square)}
        {document.subject && (
          <>
            {button(`Aim at ${document.subject.name}`, "Turns the camera to the subject; roll stays", () => aim(null))}
            {FILLS.map(({ fill, title }) =>
              button(
                title,
                `Aims, and goes where the subject takes ${Math.round(fill * 100)} % of the picture's height`,
                () => aim(fill),
              ),
            )}
          </>
        )}
      </div>
    </section>
  );
}
