import { Hourglass } from "lucide-react";
import { useEffect } from "react";
import { useStore } from "zustand";
import { LaneRow, useLaneSize } from "../../shared/LaneRow";
import { useAfterTyped } from "../../shared/number";
import { useLeaving } from "../../shared/useLeaving";
import { commit } from "../../stores/editing";
import { openShot } from "../../stores/openShot";
import { cancelPreview, preview } from "../../stores/preview";
import { endTimeEdit, type TimeDraft, timeEdit } from "../../stores/timeEdit";
import { DraftNumbers } from "./DraftNumbers";
import { EditMark } from "./EditMark";
import { KindSwitch } from "./KindSwitch";
import { kindOf } from "./kinds";
import { Ways } from "./Ways";

/** Row under the ruler during a time edit: kind, amount, continuation; the lanes preview the result. */
export function TimeEditRow() {
  const draft = useStore(timeEdit, (each) => each.draft);
  return draft && <Choosing draft={draft} />;
}

function Choosing({ draft }: { draft: TimeDraft }) {
  const { width } = useLaneSize();
  const revision = useStore(openShot, (each) => each.state?.revision);
  const variant = useStore(openShot, (each) => each.state?.variant);
  const kind = kindOf(draft);
  const can = kind.available?.() !== false;
  // Previews the motion; updated after each other change of the shot.
  useEffect(() => {
    if (can) preview(kind.command(draft), true);
  }, [draft, kind, can, revision, variant]);
  useLeaving(cancelPreview);
  const apply = useAfterTyped(() => {
    endTimeEdit();
    void commit(kind.command(draft));
  });
  return (
    <LaneRow
      role="region"
      aria-label="Edit time"
      className="border-base-300 border-b bg-base-200"
      height="auto"
      headClass="cond flex flex-col justify-center px-3 text-[13px]"
      head={
        <>
          <span className="flex items-center gap-1 font-semibold">
            <Hourglass size={13} /> Edit time
          </span>
          <span className="text-(--graphite) text-xs">Shift-drag for a range</span>
        </>
      }
    >
      <div className="cond relative flex flex-col justify-center gap-1 px-2 py-1 text-xs" style={{ width }}>
        <div className="flex flex-wrap items-center gap-x-2 gap-y-1">
          <KindSwitch draft={draft} />
          <DraftNumbers key={kind.id} draft={draft} numbers={kind.numbers} />
        </div>
        <div className="flex items-center gap-2">
          <Ways draft={draft} gap={kind.gap === true} runs={kind.runs === true} />
          <span className="truncate text-(--graphite)" title={kind.told}>
            {can ? kind.told : "Select a clip first"}
          </span>
          <span className="ml-auto" />
          <button type="button" className="btn btn-xs" title="Cancel time edit (Escape)" onClick={endTimeEdit}>
            Cancel
          </button>
          <button type="button" className="btn btn-xs btn-primary" disabled={!can} onClick={apply}>
            Apply
          </button>
        </div>
        <EditMark {...kind.mark(draft)} />
      </div>
    </LaneRow>
  );
}
