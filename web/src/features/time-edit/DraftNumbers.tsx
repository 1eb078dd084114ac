import { useEffect } from "react";
import { useStore } from "zustand";
import { NumberField } from "../../shared/number";
import { changeDraft, type TimeDraft } from "../../stores/timeEdit";
import { transport } from "../../stores/transport";
import type { DraftNumber } from "./kinds";

/** The numbers of an edit of time; a range follows the loop range that is drawn on the ruler. */
export function DraftNumbers({ draft, numbers }: { draft: TimeDraft; numbers: DraftNumber[] }) {
  const loop = useStore(transport, (each) => each.loop);
  useEffect(() => {
    if (loop) changeDraft({ first: loop[0], last: loop[1] });
  }, [loop]);
  return numbers.map(({ field, label, unit, limits: [least, most] }) => (
    <span key={field} className="flex shrink-0 items-center gap-1">
      <span className="text-(--graphite)">{label}</span>
      <NumberField
        label={label}
        value={draft[field]}
        unit={unit}
        step={1}
        digits={0}
        least={least}
        most={most}
        className="min-w-14"
        onPreview={(value) => changeDraft({ [field]: Math.round(value) })}
        onCommit={(value) => changeDraft({ [field]: Math.round(value) })}
      />
    </span>
  ));
}
