import { keysOf } from "../../api/param";
import type { Param } from "../../api/types";
import { commit } from "../../stores/editing";

export type KeyDotProps = {
  /** Targets of a key: all selected ones. */
  places: string[];
  /** The number next to the dot: its own key is the one that is deleted. */
  at: string;
  param: Param;
  frame: number;
  title: string;
  /** Makes a dial of the number. */
  onDial?: () => void;
  disabled?: boolean;
};

/** Key state of a number: a full dot for a key here; an ink ring for keys elsewhere; a faint ring for none. Click sets or deletes it. */
export function KeyDot({ places, at, param, frame, title, onDial, disabled }: KeyDotProps) {
  const keys = keysOf(param);
  const here = keys.some((key) => key.frame === frame);
  const toggle = (all: boolean) => {
    if (all && keys.length) void commit({ type: "delete_keys", keys: keys.map((key) => ({ at, frame: key.frame })) });
    else if (here) void commit({ type: "delete_keys", keys: [{ at, frame }] });
    else void commit({ type: "set_keys", keys: places.map((place) => ({ at: place, frame })) });
  };
  const hint = keys.length
    ? `${here ? "Delete this key" : "Set a key here"}; ${keys.length} in all, Alt-click deletes them`
    : "Set a key here";
  const more = onDial ? "; Ctrl-click creates a dial from the number" : "";
  const look = here ? "border-primary bg-primary" : keys.length ? "border-primary" : "border-base-300";
  return (
    <button
      type="button"
      aria-pressed={here}
      aria-label={`Key of ${title} here`}
      disabled={disabled}
      title={hint + more}
      className="-m-[7px] grid h-6 w-6 shrink-0 place-items-center disabled:opacity-40"
      onClick={(event) => (onDial && (event.ctrlKey || event.metaKey) ? onDial() : toggle(event.altKey))}
    >
      <span className={`h-2.5 w-2.5 rounded-full border-2 ${look}`} />
    </button>
  );
}
