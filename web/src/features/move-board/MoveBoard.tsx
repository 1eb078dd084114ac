import { useStore } from "zustand";
import { NumberField } from "../../shared/NumberField";
import { useMotionVersion } from "../../shared/useMotionVersion";
import { usePausedFrame } from "../../shared/usePausedFrame";
import { motion, rowOf } from "../../stores/motion";
import { cancelPreview, commit, preview, session } from "../../stores/session";
import { view } from "../../stores/view";
import { addressOf, type FIELDS, keyHere, type MoveField, moveCommand } from "./commands";
import { PinBar } from "./PinBar";
import { PlaceBar } from "./PlaceBar";
import { RowEnd } from "./RowEnd";
import { SubjectBar } from "./SubjectBar";

type Row = {
  field: MoveField;
  title: string;
  unit: string;
  speed: number;
  digits: number;
  least?: number;
  most?: number;
};

const ROWS: Row[] = [
  { field: "x_m", title: "x", unit: "m", speed: 0.01, digits: 3 },
  { field: "y_m", title: "height", unit: "m", speed: 0.01, digits: 3 },
  { field: "z_m", title: "z", unit: "m", speed: 0.01, digits: 3 },
  { field: "pan_deg", title: "pan", unit: "°", speed: 0.1, digits: 2 },
  { field: "tilt_deg", title: "tilt", unit: "°", speed: 0.1, digits: 2 },
  { field: "roll_deg", title: "roll", unit: "°", speed: 0.1, digits: 2 },
  { field: "focal_mm", title: "lens", unit: "mm", speed: 0.2, digits: 1, least: 1, most: 10000 },
];
const PRIMES_MM = [18, 24, 35, 50, 85, 135];

/** The move at the present frame: numbers, keys, placing. A keyed number gets a key where it is changed. */
export function MoveBoard() {
  const document = useStore(session, (state) => state.state?.document);
  const autoKey = useStore(view, (state) => state.autoKey);
  const frame = usePausedFrame();
  useMotionVersion();
  const bare = motion.getState().arrays.get("bare");
  if (!document || !bare) return null;
  const at = rowOf(frame) * bare.columns;
  const mount = document.mounts.at(-1);
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
      <div className="grid grid-cols-2 gap-x-4">
        {ROWS.map((row, index) => {
          const param = row.field === "focal_mm" ? document.focal_mm : mount?.[row.field as (typeof FIELDS)[number]];
          const here = param?.state === "keyed" && param.curve.keys.some((key) => key.frame === frame);
          const value = bare.data[at + index] ?? 0;
          const address = addressOf(document, row.field);
          return (
            <div key={row.field} className="flex h-[25px] items-center gap-2 border-base-300/70 border-b">
              <button
                type="button"
                aria-pressed={here}
                aria-label={`Key of ${row.title} here`}
                title={here ? "Delete this key" : "Set a key here"}
                className={`h-2.5 w-2.5 rounded-full border-2 ${here ? "border-primary bg-primary" : param?.state === "keyed" ? "border-primary" : "border-base-300"}`}
                onClick={() =>
                  void commit(
                    here
                      ? { type: "delete_keys", keys: [{ at: address, frame }] }
                      : { type: "set_keys", keys: [{ at: address, frame }] },
                  )
                }
              />
              <span className="cond w-9 text-[13px]">{row.title}</span>
              <NumberField
                label={`Move ${row.title}`}
                value={value}
                unit={row.unit}
                speed={row.speed}
                digits={row.digits}
                least={row.least}
                most={row.most}
                className="flex-1"
                onPreview={(next) => preview(moveCommand(row.field, next))}
                onCommit={(next) => void commit(moveCommand(row.field, next))}
                onCancel={cancelPreview}
              />
              {row.field !== "focal_mm" && <RowEnd field={row.field} title={row.title} frame={frame} />}
            </div>
          );
        })}
        <fieldset className="flex h-[25px] items-center gap-0.5" aria-label="Common lenses">
          {PRIMES_MM.map((focal) => (
            <button
              key={focal}
              type="button"
              className="num rounded-sm px-1 text-xs hover:bg-(--wash)"
              title={`${focal} mm`}
              onClick={() => void commit(moveCommand("focal_mm", focal))}
            >
              {focal}
            </button>
          ))}
        </fieldset>
      </div>
      <SubjectBar document={document} />
      <PlaceBar document={document} frame={frame} />
      <PinBar document={document} />
    </div>
  );
}
