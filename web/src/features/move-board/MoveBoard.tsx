import { useStore } from "zustand";
import { facts } from "../../stores/facts";
import { openShot } from "../../stores/openShot";
import { view } from "../../stores/view";
import { addressOf, type MoveOrLens, workMount } from "./commands";
import { MountBar } from "./MountBar";
import { MoveHead } from "./MoveHead";
import { MoveRow } from "./MoveRow";
import { PinBar } from "./PinBar";
import { PlaceBar } from "./PlaceBar";
import { takeLens } from "./placing";
import { SubjectBar } from "./SubjectBar";

/** The move at the present frame: numbers, keys, placing. A keyed number gets a key where it is changed. */
export function MoveBoard() {
  const document = useStore(openShot, (state) => state.state?.document);
  const chosen = useStore(view, (state) => state.mount);
  if (!document) return null;
  const mount = workMount(document, chosen);
  const { move, lenses_mm } = facts().forms;
  return (
    <div className="flex flex-col gap-2 px-3 py-2">
      <MoveHead />
      <MountBar document={document} mount={mount?.id ?? null} />
      <div className="grid grid-cols-2 gap-x-4">
        {move.map((look) => {
          const field = look.field as MoveOrLens;
          const param = field === "focal_mm" ? document.focal_mm : mount?.[field];
          return param && <MoveRow key={field} look={look} at={addressOf(document, field)} param={param} />;
        })}
        <fieldset className="flex h-[25px] items-center gap-0.5" aria-label="Common lenses">
          {lenses_mm.map((focal) => (
            <button
              key={focal}
              type="button"
              className="num rounded-sm px-1 text-xs hover:bg-(--wash)"
              title={`${focal} mm`}
              onClick={() => takeLens(focal)}
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
