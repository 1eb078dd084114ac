import type { Param } from "../api/types";
import { commit } from "../stores/session";

/** Whether a number has a key here: a full dot; only elsewhere: a ring in ink; none at all: a faint ring. Click sets or deletes it. */
export function KeyDot(props: {
  /** Where a key is set: all that are selected. */
  at: string | string[];
  /** The number beside the dot, when there are several: its own key is the one that is deleted. */
  own?: string;
  param: Param;
  frame: number;
  title: string;
  disabled?: boolean;
}) {
  const { param, frame, title, disabled } = props;
  const places = typeof props.at === "string" ? [props.at] : props.at;
  const own = props.own ?? places[0] ?? "";
  const here = param.state === "keyed" && param.curve.keys.some((key) => key.frame === frame);
  const keys = places.map((at) => ({ at, frame }));
  const toggle = (all: boolean) => {
    if (all && param.state === "keyed") {
      const every = param.curve.keys.map((key) => ({ at: own, frame: key.frame }));
      void commit({ type: "delete_keys", keys: every });
    } else void commit(here ? { type: "delete_keys", keys: [{ at: own, frame }] } : { type: "set_keys", keys });
  };
  return (
    <button
      type="button"
      aria-pressed={here}
      aria-label={`Key of ${title} here`}
      disabled={disabled}
      title={
        param.state === "keyed"
          ? `${here ? "Delete this key" : "Set a key here"}; ${param.curve.keys.length} in all, Alt-click deletes them`
          : "Set a key here"
      }
      className={`h-2.5 w-2.5 shrink-0 rounded-full border-2 disabled:opacity-40 ${here ? "border-primary bg-primary" : param.state === "keyed" ? "border-primary" : "border-base-300"}`}
      onClick={(event) => toggle(event.altKey)}
    />
  );
}
