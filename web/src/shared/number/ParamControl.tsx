import type { Command, FieldLook, Param } from "../../api/types";
import { commit } from "../../stores/editing";
import { placesAlike } from "../../stores/selection";
import { cancelPreview, preview } from "../../stores/trying";
import { usePausedFrame } from "../usePausedFrame";
import { KeyDot } from "./KeyDot";
import { NumberField } from "./NumberField";
import { useNumberAt } from "./useNumberAt";

export type ParamControlProps = {
  at: string;
  param: Param;
  look: FieldLook;
  /** Stacked under its title, or in a row that has a title of its own. */
  stacked?: boolean;
  /** What the number is called where the title alone would not do. */
  label?: string;
  keyTitle?: string;
  /** Value that follows what is tried on; as the core samples it when left out. */
  value?: number;
  /** Where keys go; to the same number of all selected layers when left out. */
  places?: string[];
  /** The command that sets it; one that sets it in all places when left out. */
  command?: (value: number) => Command;
  /** Every change sets a key. */
  keys?: boolean;
  /** Follows what is tried on, even when it is the same at all frames. */
  live?: boolean;
  disabled?: boolean;
  className?: string;
};

/** THE control of a number of the shot, whatever its state: the dot sets and deletes keys; a number that has some gets one where it is changed. */
export function ParamControl(props: ParamControlProps) {
  const { at, param, look, stacked, places = placesAlike(at), disabled } = props;
  const { title, times } = look;
  const frame = usePausedFrame();
  const sampled = useNumberAt(at, param, props.live);
  const value = props.value ?? sampled;
  const set = (shown: number): Command =>
    props.command?.(shown / times) ?? {
      type: "set_numbers",
      frame,
      values: places.map((place) => ({ at: place, value: shown / times })),
      key: props.keys ?? false,
    };
  const dot = (
    <KeyDot places={places} at={at} param={param} frame={frame} title={props.keyTitle ?? title} disabled={disabled} />
  );
  const number = (
    <NumberField
      label={props.label ?? title}
      value={value * times}
      unit={look.unit}
      step={look.step}
      least={look.least}
      most={look.most}
      digits={look.digits}
      scales={look.scales}
      disabled={disabled}
      className={props.className ?? (stacked ? "w-full text-left!" : "w-full")}
      onPreview={(shown) => preview(set(shown))}
      onCommit={(shown) => commit(set(shown))}
      onCancel={cancelPreview}
    />
  );
  if (!stacked)
    return (
      <>
        {dot}
        {number}
      </>
    );
  return (
    <div className="flex min-w-0 flex-col">
      <span className="cond flex items-center gap-1.5 text-(--graphite) text-xs">
        {dot}
        {title}
      </span>
      <span className="border-base-300 border-b">{number}</span>
    </div>
  );
}
