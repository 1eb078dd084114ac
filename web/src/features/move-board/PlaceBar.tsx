import { useState } from "react";
import { useStore } from "zustand";
import type { Shot } from "../../api/types";
import { NumberField } from "../../shared/NumberField";
import { cancelPreview } from "../../stores/session";
import { view } from "../../stores/view";
import { aim, FILLS, fromOutside, level, square } from "./doings";

/** Placing the camera: fly, from the Set view, at the subject, level, square. */
export function PlaceBar({ document }: { document: Shot }) {
  const [fill, setFill] = useState(FILLS[1].fill as number);
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
            <span
              className="cond flex items-center gap-1 text-(--graphite) text-xs"
              title="Aims, and goes where the subject takes this share of the picture's height"
            >
              fill
              <NumberField
                label="Fill of the picture's height"
                value={fill * 100}
                unit="%"
                speed={0.5}
                least={2}
                most={400}
                digits={0}
                scales
                className="border border-base-300 text-base-content"
                onPreview={(percent) => aim(percent / 100, true)}
                onCommit={(percent) => {
                  setFill(percent / 100);
                  return aim(percent / 100);
                }}
                onCancel={cancelPreview}
              />
            </span>
            {FILLS.map(({ fill: share, title }) =>
              button(
                title,
                `Aims, and goes where the subject takes ${Math.round(share * 100)} % of the picture's height`,
                () => aim(share),
              ),
            )}
          </>
        )}
      </div>
    </section>
  );
}
