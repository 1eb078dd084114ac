import { Hourglass, Rows4 } from "lucide-react";
import { useStore } from "zustand";
import { AddLayerMenu } from "../../parts/AddLayerMenu";
import { HEAD_PX } from "../../shared/LaneRow";
import { useTotal } from "../../shared/useTotal";
import { chooseTimeEdit, endTimeEdit, timeEdit } from "../../stores/timeEdit";
import { setCompact, view } from "../../stores/view";
import { AddDialButton } from "./AddDialButton";
import type { SheetEntry } from "./entries";
import { MoversBar } from "./MoversBar";
import { PresetsButton } from "./PresetsButton";
export const SUM_HEIGHT_PX = 56;

/** Size of the whole shake; re-renders alone when the readings change. */
export function SumHead() {
  const size = useTotal();
  return (
    <div
      className="flex shrink-0 flex-col justify-center border-base-300 border-r px-3"
      style={{ height: SUM_HEIGHT_PX, width: HEAD_PX }}
    >
      <span className="flex items-center">
        <span className="cond font-semibold text-[13px]">Sum</span>
        <span className="ml-auto" />
        <AddLayerMenu quiet />
        <AddDialButton />
      </span>
      <span className="-mt-1 flex items-center gap-2">
        <span className="cond shrink-0 text-(--graphite) text-xs" title={size?.told} data-testid="sum-size">
          {size ? `typical ${size.typical} px` : ""}
        </span>
        <span className="ml-auto" />
        <PresetsButton />
      </span>
      <MoversBar />
    </div>
  );
}

/** Frames put in, taken out, stretched … under the ruler. */
function EditTimeButton() {
  const open = useStore(timeEdit, (each) => each.draft !== null);
  return (
    <button
      type="button"
      aria-pressed={open}
      aria-label="Edit time"
      title="Edit time: insert, take out, stretch, shift or ease frames (Shift I)"
      className={`ml-auto rounded-sm p-0.5 ${open ? on : off}`}
      onClick={() => (open ? endTimeEdit() : chooseTimeEdit("insert"))}
    >
      <Hourglass size={13} />
    </button>
  );
}

const LANES = { id: null, title: "lanes" };
const on = "bg-(--wash) text-primary";
const off = "hover:bg-base-200";

/** Content under the ruler: lanes, curves, or the frame table; and row heights. */
export function SheetSwitch({ compact, sheets }: { compact: boolean; sheets: SheetEntry[] }) {
  const sheet = useStore(view, (each) => each.sheet);
  return (
    <fieldset
      className="flex h-[26px] min-w-0 shrink-0 items-center border-base-300 border-r px-1.5"
      style={{ width: HEAD_PX }}
      aria-label="Lanes, curves or table"
    >
      {[LANES, ...sheets.filter(({ title }) => title)].map(({ id, title }) => (
        <button
          key={title}
          type="button"
          aria-pressed={sheet === id}
          className={`cond rounded-sm px-1 text-xs ${sheet === id ? on : off}`}
          onClick={() => view.setState({ sheet: id })}
        >
          {title}
        </button>
      ))}
      <EditTimeButton />
      <button
        type="button"
        aria-pressed={compact}
        aria-label="Compact rows"
        title={
          compact
            ? "Rows are compact, except the selected one; click for tall rows"
            : "Use compact rows to see more layers"
        }
        className={`rounded-sm p-0.5 ${compact ? on : off}`}
        onClick={() => setCompact(!compact)}
      >
        <Rows4 size={13} />
      </button>
    </fieldset>
  );
}
