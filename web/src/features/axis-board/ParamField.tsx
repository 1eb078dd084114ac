import type { Command, Param } from "../../api/types";
import { KeyDot } from "../../shared/KeyDot";
import { NumberField } from "../../shared/NumberField";
import type { NumberLook } from "../../shared/sourceFields";
import { useNumberAt } from "../../shared/useNumberAt";
import { usePausedFrame } from "../../shared/usePausedFrame";
import { placesAlike } from "../../stores/selection";
import { cancelPreview, commit, preview } from "../../stores/session";

export type ParamFieldProps = {
  title: string;
  at: string;
  param: Param;
  /** Every change sets a key. */
  keys?: boolean;
} & NumberLook;

/** A number of the shot with its name, dragged or typed; the dot sets and deletes keys, a keyed number gets one where it is changed. */
export function ParamField(props: ParamFieldProps) {
  const { title, at, param, unit, times = 1 } = props;
  const frame = usePausedFrame();
  const value = useNumberAt(at, param);
  const set = (shown: number): Command => ({
    type: "set_numbers",
    frame,
    values: placesAlike(at).map((place) => ({ at: place, value: shown / times })),
    key: props.keys ?? false,
  });
  return (
    <div className="flex min-w-0 flex-col">
      <span className="cond flex items-center gap-1.5 text-(--graphite) text-xs">
        <KeyDot at={placesAlike(at)} own={at} param={param} frame={frame} title={title} />
        {title}
      </span>
      <span className="border-base-300 border-b">
        <NumberField
          label={title}
          value={value * times}
          unit={unit}
          speed={props.speed}
          least={props.least}
          most={props.most}
          digits={props.digits}
          scales={props.scales}
          className="w-full text-left!"
          onPreview={(shown) => preview(set(shown))}
          onCommit={(shown) => commit(set(shown))}
          onCancel={cancelPreview}
        />
      </span>
    </div>
  );
}
