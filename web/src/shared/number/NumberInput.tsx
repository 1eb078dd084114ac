import { useState } from "react";
import { arithmetic } from "./arithmetic";

type NumberInputProps = {
  label: string;
  value: number;
  className: string;
  onValue: (value: number) => void;
  /** What was typed behind a sign =, where that makes a formula. */
  onFormula?: (text: string) => void;
  /** Done, or given up. */
  onEnd: () => void;
};

/** A number being typed, or a sum such as 0.4*2; what is wrong stays to be mended. */
export function NumberInput({ label, value, className, onValue, onFormula, onEnd }: NumberInputProps) {
  const [text, setText] = useState(String(Number(value.toFixed(6))));
  const [wrong, setWrong] = useState(false);
  const finish = () => {
    const formula = /^\s*=(.*)$/s.exec(text)?.[1];
    if (formula !== undefined && onFormula) {
      onEnd();
      onFormula(formula.trim());
      return;
    }
    const next = arithmetic(text, value);
    if (next === null) {
      setWrong(true);
      return;
    }
    onEnd();
    onValue(next);
  };
  return (
    <input
      aria-label={label}
      aria-invalid={wrong}
      title={wrong ? "A number, a sum such as 0.4*2, or = and a formula" : undefined}
      className={`num w-full min-w-0 rounded-sm border bg-base-100 px-1 text-right text-xs ${wrong ? "border-error text-error" : "border-primary"} ${className}`}
      value={text}
      ref={(element) => {
        if (element && document.activeElement !== element) element.select();
      }}
      onChange={(event) => {
        setText(event.target.value);
        setWrong(false);
      }}
      onBlur={finish}
      onKeyDown={(event) => {
        event.stopPropagation();
        if (event.key === "Enter") finish();
        if (event.key === "Escape") onEnd();
      }}
    />
  );
}
