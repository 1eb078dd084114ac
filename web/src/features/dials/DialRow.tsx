import { useStore } from "zustand";
import { openShot } from "../../stores/openShot";
import { DialChip } from "./DialChip";

export const DIALS_HEIGHT_PX = 28;

/** The dials, as a control surface: dragged right here, while it plays too. There when there are any. */
export function DialRow({ headPx }: { headPx: number }) {
  const dials = useStore(openShot, (each) => each.state?.document.dials);
  if (!dials?.length) return null;
  return (
    <section
      aria-label="Dials"
      className="flex shrink-0 items-center border-base-300 border-t"
      style={{ height: DIALS_HEIGHT_PX }}
    >
      <span className="cond shrink-0 px-3 font-semibold text-[13px]" style={{ width: headPx }}>
        Dials
      </span>
      <div className="relative z-20 flex min-w-0 flex-1 items-center gap-2 overflow-x-auto bg-base-100 px-2">
        {dials.map((dial) => (
          <DialChip key={dial.name} dial={dial} />
        ))}
      </div>
    </section>
  );
}
