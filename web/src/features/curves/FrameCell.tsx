import { useState } from "react";
import { arithmetic, useFault, useReading } from "../../shared/number";
import { useLeaving } from "../../shared/useLeaving";
import { note } from "../../stores/notes";

export type FrameCellProps = {
  label: string;
  value: number;
  /** Address and unit of the number. */
  at: string;
  unit: string;
  /** For a long shot, values arrive after their frames come into view. */
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

/** The text typed into a cell: a number, a sum, or nothing, which deletes its key. What is wrong stays to be mended. */
function useTyped(props: FrameCellProps) {
  const { value, at, unit, keyed, onClear, onValue } = props;
  const [text, setText] = useState<string | null>(null);
  const { fault, read, giveUp } = useReading(HINTS.wrong, { unit, at });
  const type = (typed: string | null) => {
    setText(typed);
    giveUp();
  };
  const finish = async () => {
    if (text === null) return;
    if (text.trim() === "") {
      if (keyed) onClear();
      type(null);
      return;
    }
    const next = await read(text, value);
    if (next === null) return;
    onValue(next);
    type(null);
  };
  useLeaving(() => {
    if (text === null) return;
    if (text.trim() !== "") void keepUnseen(text, props);
    else if (keyed) onClear();
  });
  return { text, fault, type, finish };
}

/** A text in a cell that was scrolled away is still committed; its errors are shown elsewhere. */
async function keepUnseen(text: string, { label, value, at, unit, onValue }: FrameCellProps): Promise<void> {
  const found = await arithmetic(text, value, { unit, at });
  if ("value" in found) onValue(found.value);
  else note("error", `“${text.slice(0, 40)}” was not kept in ${label}: ${found.fault}`);
}

const HINTS = {
  wrong: "A number, or a sum such as 0.4*2",
  keyed: "Keyed; clear the cell to delete the key. Shift-click a row and type to fill",
  between: "Interpolated; type to set a key",
};

/** A number of the table. */
export function FrameCell(props: FrameCellProps) {
  const { label, value, known, keyed, filled, onFocus, onReach, onPaste } = props;
  const { text, fault, type, finish } = useTyped(props);
  const { note, anchored } = useFault(fault);
  const ink = fault ? "text-error" : keyed ? "font-semibold text-primary" : "text-(--graphite)";
  return (
    <>
      <input
        aria-label={label}
        aria-invalid={fault !== ""}
        style={anchored}
        title={fault || HINTS[keyed ? "keyed" : "between"]}
        className={`num w-full px-2 text-right outline-offset-[-2px] ${filled ? "bg-(--wash)" : "bg-transparent"} ${ink}`}
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
        onChange={(event) => type(event.target.value)}
        onBlur={() => void finish()}
        onPaste={onPaste}
        data-idle={text === null ? "yes" : "no"}
        onKeyDown={(event) => {
          // While nothing has been typed here, undo and redo are the shot's; all other keys are the cell's.
          const undoes = (event.ctrlKey || event.metaKey) && /^[zy]$/i.test(event.key);
          if (text !== null || !undoes) event.stopPropagation();
          if (event.key === "Enter") void finish();
          if (event.key === "Escape") {
            if (text === null) event.currentTarget.blur();
            type(null);
          }
        }}
      />
      {note}
    </>
  );
}
