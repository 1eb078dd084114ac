import { Spline } from "lucide-react";
import { useStore } from "zustand";
import { dialGroup } from "../../shared/dialGroup";
import { LaneRow } from "../../shared/LaneRow";
import { openShot } from "../../stores/openShot";
import { view } from "../../stores/view";
import { DialChip } from "./DialChip";

export const DIALS_HEIGHT_PX = 28;

/** The dials, as a control surface: dragged right here, while it plays too. There when there are any. */
export function DialRow() {
  const dials = useStore(openShot, (each) => each.state?.document.dials);
  if (!dials?.length) return null;
  return (
    <LaneRow
      role="region"
      aria-label="Dials"
      className="items-center border-base-300 border-t"
      height={DIALS_HEIGHT_PX}
      headClass="cond flex items-center border-r-0! px-3 font-semibold text-[13px]"
      head={
        <>
          Dials
          <CurvesButton unit={dials[0]?.unit ?? ""} />
        </>
      }
    >
      <div className="relative z-20 flex min-w-0 flex-1 items-center gap-2 overflow-x-auto bg-base-100 px-2">
        {dials.map((dial) => (
          <DialChip key={dial.name} dial={dial} />
        ))}
      </div>
    </LaneRow>
  );
}

/** Opens the curves of the dials, and puts them away. */
function CurvesButton({ unit }: { unit: string }) {
  const open = useStore(view, (each) => each.sheet === "curves" && !!each.sheetGroup?.startsWith(dialGroup("")));
  return (
    <button
      type="button"
      aria-pressed={open}
      aria-label="Curves of the dials"
      title="The dials over time, as curves"
      className={`ml-auto flex items-center gap-0.5 rounded-sm px-1 font-normal text-xs ${open ? "bg-(--wash) text-primary" : "text-(--graphite) hover:bg-base-300/60"}`}
      onClick={() =>
        view.setState(open ? { sheet: null, sheetGroup: null } : { sheet: "curves", sheetGroup: dialGroup(unit) })
      }
    >
      <Spline size={11} /> curves
    </button>
  );
}
