import type { Param } from "../../api/types";
import { KeyDot } from "../../shared/KeyDot";
import { NumberField } from "../../shared/NumberField";
import { useNumberAt } from "../../shared/useNumberAt";
import { cancelPreview, commit, preview } from "../../stores/session";
import { type MoveField, moveCommand } from "./commands";
import { RowEnd } from "./RowEnd";

export type MoveRowInfo = {
  field: MoveField;
  title: string;
  unit: string;
  speed: number;
  digits: number;
  least?: number;
  most?: number;
};

/** A number of the move at the present frame: its key, its value, to zero, lock. */
export function MoveRow({ row, at, param, frame }: { row: MoveRowInfo; at: string; param: Param; frame: number }) {
  const value = useNumberAt(at, param, true);
  return (
    <div className="flex h-[25px] items-center gap-2 border-base-300/70 border-b">
      <KeyDot at={at} param={param} frame={frame} title={row.title} />
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
        onCommit={(next) => commit(moveCommand(row.field, next))}
        onCancel={cancelPreview}
      />
      {row.field !== "focal_mm" && <RowEnd field={row.field} title={row.title} />}
    </div>
  );
}
