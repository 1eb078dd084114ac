import { useStore } from "zustand";
import { usePausedFrame } from "../../shared/usePausedFrame";
import { session } from "../../stores/session";
import { view } from "../../stores/view";
import { addressOf, keyHere, workMount } from "./commands";
import { PRIMES_MM, prime } from "./doings";
import { MountBar } from "./MountBar";
import { MoveRow, type MoveRowInfo } from "./MoveRow";
import { PinBar } from "./PinBar";
import { PlaceBar } from "./PlaceBar";
import { SubjectBar } from "./SubjectBar";

const ROWS: MoveRowInfo[] = [
  { field: "x_m", title: "x", unit: "m", speed: 0.01, digits: 3 },
  { field: "y_m", title: "height", unit: "m", speed: 0.01, digits: 3 },
  { field: "z_m", title: "z", unit: "m", speed: 0.01, digits: 3 },
  { field: "pan_deg", title: "pan", unit: "°", speed: 0.1, digits: 2 },
  { field: "tilt_deg", title: "tilt", unit: "°", speed: 0.1, digits: 2 },
  { field: "roll_deg", title: "roll", unit: "°", speed: 0.1, digits: 2 },
  { field: "focal_mm", title: "lens", unit: "mm", speed: 0.2, digits: 1, least: 1, most: 10000 },
];

/** The move at the present frame: numbers, keys, placing. A keyed number gets a key where it is changed. */
export function MoveBoard() {
  const document = useStore(session, (state) => state.state?.document);
  const autoKey = useStore(view, (state) => state.autoKey);
  const chosen = useStore(view, (state) => state.mount);
  const frame = usePausedFrame();
  if (!document) return null;
  const mount = workMount(document, chosen);
  return (
    <div className="flex flex-col gap-2 px-3 py-2">
      <div className="flex items-center gap-2">
        <h2 className="cond font-semibold text-[15px]">Move</h2>
        <span className="num text-(--graphite) text-xs">frame {frame}</span>
        <label
          className="cond ml-auto flex items-center gap-1 text-xs"
          title="Every change sets a key, on numbers without keys too"
        >
          <input
            type="checkbox"
            className="checkbox checkbox-xs h-3 w-3 rounded-[2px] p-0"
            checked={autoKey}
            onChange={(event) => view.setState({ autoKey: event.target.checked })}
          />
          key every change
        </label>
        <button type="button" className="btn btn-xs" title="A key on all six axes here (K)" onClick={keyHere}>
          Set key
        </button>
      </div>
      <MountBar document={document} mount={mount?.id ?? null} />
      <div className="grid grid-cols-2 gap-x-4">
        {ROWS.map((row) => {
          const param = row.field === "focal_mm" ? document.focal_mm : mount?.[row.field];
          return param ? (
            <MoveRow key={row.field} row={row} at={addressOf(document, row.field)} param={param} frame={frame} />
          ) : null;
        })}
        <fieldset className="flex h-[25px] items-center gap-0.5" aria-label="Common lenses">
          {PRIMES_MM.map((focal) => (
            <button
              key={focal}
              type="button"
              className="num rounded-sm px-1 text-xs hover:bg-(--wash)"
              title={`${focal} mm`}
              onClick={() => prime(focal)}
            >
              {focal}
            </button>
          ))}
        </fieldset>
      </div>
      <SubjectBar document={document} />
      <PlaceBar document={document} />
      <PinBar document={document} />
    </div>
  );
}
