import { useState } from "react";
import type { TypedInto } from "./arithmetic";
import { useFault } from "./Fault";
import { useReading } from "./useReading";

type NumberInputProps = {
  label: string;
  value: number;
  into: TypedInto;
  className: string;
  onValue: (value: number) => void;
  /** What was typed behind a sign =, where that makes a formula. */
  onFormula?: (text: string) => void;
  /** Done, or given up. */
  onEnd: () => void;
};

/** A number being typed, or a sum such as 0.4*2; what is wrong stays to be mended. */
export function NumberInput({ label, value, into, className, onValue, onFormula, onEnd }: NumberInputProps) {
  const [text, setText] = useState(String(Number(value.toFixed(6))));
  const { fault, read, giveUp } = useReading(
    "A number with or without a unit, a sum such as 0.4*2, or = and a formula",
    into,
  );
  const { note, anchored } = useFault(fault);
  const finish = async () => {
    const formula = /^\s*=(.*)$/s.exec(text)?.[1];
    if (formula !== undefined && onFormula) {
      onEnd();
      onFormula(formula.trim());
      return;
    }
    const next = await read(text, value);
    if (next === null) return;
    onEnd();
    onValue(next);
  };
  return (
    <>
      <input
        aria-label={label}
        aria-invalid={fault !== ""}
        title={fault || undefined}
        style={anchored}
        className={`num w-full min-w-0 rounded-sm border bg-base-100 px-1 text-right text-xs ${fault ? "border-error text-error" : "border-primary"} ${className}`}
        value={text}
        ref={(element) => {
          if (element && document.activeElement !== element) element.select();
        }}
        onChange={(event) => {
          setText(event.target.value);
          giveUp();
        }}
        onBlur={() => void finish()}
        onKeyDown={(event) => {
          event.stopPropagation();
          if (event.key === "Enter") void finish();
          if (event.key === "Escape") {
            giveUp();
            onEnd();
          }
        }}
      />
      {note}
    </>
  );
}
