import { useStore } from "zustand";
import type { Command, Shot } from "../../api/types";
import { commit } from "../../stores/session";
import { view } from "../../stores/view";
import { outsidePose, placeLens } from "../set-view";

const FILLS = [
  { fill: 0.33, title: "wide" },
  { fill: 0.75, title: "full figure" },
  { fill: 1.8, title: "close" },
] as const;

/** Placing the camera: fly, from the Set view, at the subject, level, square. */
export function PlaceBar({ document, frame }: { document: Shot; frame: number }) {
  const key = useStore(view, (state) => state.autoKey);
  const flying = useStore(view, (state) => state.flying);
  const locked = useStore(view, (state) => state.locks);
  const mount = useStore(view, (state) => state.mount);
  const run = (command: Command) => void commit(command);
  const fromOutside = () => {
    const pose = outsidePose();
    if (pose) run(placeLens(pose));
  };
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
        <button
          type="button"
          className="btn btn-xs"
          title="Puts the camera where the Set view looks from"
          onClick={fromOutside}
        >
          Camera where I look from
        </button>
        <button
          type="button"
          className="btn btn-xs"
          title="Roll to zero"
          onClick={() => run({ type: "snap_angles", frame, key, mount, fields: ["roll_deg"], zero: true })}
        >
          Level
        </button>
        <button
          type="button"
          className="btn btn-xs"
          title="Pan, tilt and roll to the nearest 90°"
          onClick={() =>
            run({ type: "snap_angles", frame, key, mount, fields: ["pan_deg", "tilt_deg", "roll_deg"], zero: false })
          }
        >
          Square
        </button>
        {document.subject && (
          <>
            <button
              type="button"
              className="btn btn-xs"
              onClick={() => run({ type: "aim_camera", frame, key, mount, locked, fill: null })}
            >
              Aim at {document.subject.name}
            </button>
            {FILLS.map(({ fill, title }) => (
              <button
                key={title}
                type="button"
                className="btn btn-xs"
                title={`Aims, and goes where the subject takes ${Math.round(fill * 100)} % of the picture's height`}
                onClick={() => run({ type: "aim_camera", frame, key, mount, locked, fill })}
              >
                {title}
              </button>
            ))}
          </>
        )}
      </div>
    </section>
  );
}
