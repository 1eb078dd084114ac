import { type MoveOrLens, moveCommand } from "../../acts/moving";
import type { FieldLook, MoveField, Param } from "../../api/types";
import { ParamControl } from "../../shared/number";
import { RowEnd } from "./RowEnd";

/** A number of the move at the present frame: its key, its value, to zero, lock. */
export function MoveRow({ look, at, param }: { look: FieldLook; at: string; param: Param }) {
  const field = look.field as MoveOrLens;
  return (
    <div className="flex h-[25px] items-center gap-1 border-base-300/70 border-b">
      <span className="cond w-9 text-[13px]">{look.title}</span>
      <ParamControl
        at={at}
        param={param}
        look={look}
        label={`Move ${look.title}`}
        places={[at]}
        command={(value) => moveCommand(field, value)}
        live
        className="flex-1"
      />
      {look.group !== "lens" && <RowEnd field={field as MoveField} title={look.title} />}
    </div>
  );
}
