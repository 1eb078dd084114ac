import { useEffect, useRef, useState } from "react";
import type { TypedInto } from "./arithmetic";
import { useFault } from "./FieldError";
import { useReading } from "./useReading";

type NumberInputProps = {
  label: string;
  value: number;
  into: TypedInto;
  className: string;
  onValue: (value: number) => void;
  /** The text after a sign =, if it makes a formula. */
  onFormula?: (text: string) => void;
  /** The first typed text, in place of the present number. */
  first?: string;
  /** Done, or given up; by a key, or by going elsewhere. */
  onEnd: (byKey: boolean) => void;
};

/** A number being typed, or a sum such as 0.4*2; what is wrong stays to be mended. */
export function NumberInput(props: NumberInputProps) {
  const { label, value, into, className, first, onValue, onFormula, onEnd } = props;
  const [text, setText] = useState(first ?? String(Number(value.toFixed(6))));
  const box = useRef<HTMLInputElement>(null);
  // An entered text is committed, even if other keys follow before it is parsed.
  const entered = useRef(false);
  useEffect(() => {
    box.current?.focus();
    if (first === undefined) box.current?.select();
  }, [first]);
  const { fault, read, giveUp } = useReading(
    "A number with or without a unit, a sum such as 0.4*2, or = and a formula",
    into,
  );
  const { note, anchored } = useFault(fault);
  const finish = async (byKey: boolean) => {
    if (entered.current) return;
    const formula = /^\s*=(.*)$/s.exec(text)?.[1];
    if (formula !== undefined && onFormula) {
      onEnd(byKey);
      onFormula(formula.trim());
      return;
    }
    entered.current = true;
    const next = await read(text, value);
    entered.current = false;
    if (next === null) return;
    // A focus that moved elsewhere is not taken back.
    onEnd(byKey && document.activeElement === box.current);
    onValue(next);
  };
  return (
    <>
      <input
        aria-label={label}
        aria-invalid={fault !== ""}
        title={fault || undefined}
        style={anchored}
        className={`num min-h-6 w-full min-w-0 rounded-sm border bg-base-100 px-1 text-right text-xs ${fault ? "border-error text-error" : "border-primary"} ${className}`}
        value={text}
        ref={box}
        onChange={(event) => {
          setText(event.target.value);
          giveUp();
        }}
        onBlur={() => void finish(false)}
        onKeyDown={(event) => {
          event.stopPropagation();
          if (event.key === "Enter") void finish(true);
          if (event.key === "Escape" && !entered.current) {
            giveUp();
            onEnd(true);
          }
        }}
      />
      {note}
    </>
  );
}
