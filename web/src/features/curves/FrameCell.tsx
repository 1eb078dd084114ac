import { useState } from "react";
import { arithmetic } from "../../shared/arithmetic";

export type FrameCellProps = {
  label: string;
  value: number;
  /** Of a long shot, values are on their way until they have been looked at. */
  known: boolean;
  keyed: boolean;
  /** Belongs to the stretch that a typed value fills. */
  filled: boolean;
  onFocus: () => void;
  onReach: () => void;
  onValue: (value: number) => void;
  onClear: () => void;
  onPaste: (event: React.ClipboardEvent) => void;
};

/** A number of the table: typed, or a sum; emptied it deletes its key. */
export function FrameCell({
  label,
  value,
  known,
  keyed,
  filled,
  onFocus,
  onReach,
  onValue,
  onClear,
  onPaste,
}: FrameCellProps) {
  const [text, setText] = useState<string | null>(null);
  const [wrong, setWrong] = useState(false);
  const finish = () => {
    if (text === null) return;
    if (text.trim() === "" && keyed) onClear();
    else if (text.trim() !== "") {
      const next = arithmetic(text, value);
      if (next === null) {
        setWrong(true);
        return;
      }
      onValue(next);
    }
    setText(null);
    setWrong(false);
  };
  return (
    <input
      aria-label={label}
      aria-invalid={wrong}
      title={
        wrong
          ? "A number, or a sum such as 0.4*2"
          : keyed
            ? "A key; emptied, it is deleted. Shift-click another frame, then type, to fill"
            : "Between keys; typing sets one"
      }
      className={`num w-full px-2 text-right outline-offset-[-2px] ${filled ? "bg-(--wash)" : "bg-transparent"} ${wrong ? "text-error" : keyed ? "font-semibold text-primary" : "text-(--graphite)"}`}
      value={text ?? (known ? value.toFixed(4) : "…")}
      onMouseDown={(event) => {
        if (!event.shiftKey) return;
        event.preventDefault();
        onReach();
      }}
      onFocus={(event) => {
        event.currentTarget.select();
        onFocus();
      }}
      onChange={(event) => {
        setText(event.target.value);
        setWrong(false);
      }}
      onBlur={finish}
      onPaste={onPaste}
      data-idle={text === null ? "yes" : "no"}
      onKeyDown={(event) => {
        // While nothing has been typed here, undo and redo are the shot's.
        if (text !== null || !(event.ctrlKey || event.metaKey)) event.stopPropagation();
        if (event.key === "Enter") finish();
        if (event.key === "Escape") {
          if (text === null) event.currentTarget.blur();
          setText(null);
          setWrong(false);
        }
      }}
    />
  );
}
