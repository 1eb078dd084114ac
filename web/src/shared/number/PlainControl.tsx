import type { FieldLook } from "../../api/types";
import { commit } from "../../stores/editing";
import { cancelPreview, preview } from "../../stores/preview";
import { usePending } from "../usePending";
import { StackedNumber } from "./StackedNumber";

type PlainControlProps = { at: string; value: number; look: FieldLook };

/** A number of the shot that is one for all of it: neither keyed nor a formula. */
export function PlainControl({ at, look, ...props }: PlainControlProps) {
  const value = usePending(at, props.value);
  const set = (shown: number) => ({ type: "set_values" as const, values: [{ at, value: shown / look.times }] });
  return (
    <StackedNumber
      {...look}
      at={at}
      value={value * look.times}
      onPreview={(shown) => preview(set(shown))}
      onCommit={(shown) => commit(set(shown))}
      onCancel={cancelPreview}
    />
  );
}
