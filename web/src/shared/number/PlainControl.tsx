import type { FieldLook } from "../../api/types";
import { commit } from "../../stores/editing";
import { cancelPreview, preview } from "../../stores/trying";
import { usePending } from "../usePending";
import { NumberField } from "./NumberField";
import { Stacked } from "./Stacked";

type PlainControlProps = { at: string; value: number; look: FieldLook };

/** A number of the shot that is one for all of it: neither keyed nor a formula. */
export function PlainControl({ at, look, ...props }: PlainControlProps) {
  const value = usePending(at, props.value);
  const set = (shown: number) => ({ type: "set_values" as const, values: [{ at, value: shown / look.times }] });
  return (
    <Stacked title={look.title} hint={look.hint}>
      <NumberField
        {...look}
        at={at}
        label={look.title}
        value={value * look.times}
        className="w-full text-left!"
        onPreview={(shown) => preview(set(shown))}
        onCommit={(shown) => commit(set(shown))}
        onCancel={cancelPreview}
      />
    </Stacked>
  );
}
