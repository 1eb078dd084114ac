import { useRef, useState } from "react";
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
  const [fault, setFault] = useState("");
  const reading = useRef(false);
  const finish = async () => {
    if (reading.current) return;
    const formula = /^\s*=(.*)$/s.exec(text)?.[1];
    if (formula !== undefined && onFormula) {
      onEnd();
      onFormula(formula.trim());
      return;
    }
    reading.current = true;
    const read = await arithmetic(text, value);
    reading.current = false;
    if ("fault" in read) {
      setFault(`${read.fault}. A number, a sum such as 0.4*2, or = and a formula`);
      return;
    }
    onEnd();
    onValue(read.value);
  };
  return (
    <input
      aria-label={label}
      aria-invalid={fault !== ""}
      title={fault || undefined}
      className={`num w-full min-w-0 rounded-sm border bg-base-100 px-1 text-right text-xs ${fault ? "border-error text-error" : "border-primary"} ${className}`}
      value={text}
      ref={(element) => {
        if (element && document.activeElement !== element) element.select();
      }}
      onChange={(event) => {
        setText(event.target.value);
        setFault("");
      }}
      onBlur={() => void finish()}
      onKeyDown={(event) => {
        event.stopPropagation();
        if (event.key === "Enter") void finish();
        if (event.key === "Escape") onEnd();
      }}
    />
  );
}
