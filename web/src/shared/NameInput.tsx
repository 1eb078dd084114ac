import { useState } from "react";

type NameInputProps = {
  name: string;
  label: string;
  most: number;
  placeholder?: string;
  className?: string;
  /** What was typed, without blanks around it, when it is another name. */
  onName: (name: string) => void;
  /** Whether it may be called nothing. */
  mayBeEmpty?: boolean;
};

/** A name changed in place: Enter or leaving keeps it, Escape gives up. */
export function NameInput({ name, label, most, placeholder, className = "", onName, mayBeEmpty }: NameInputProps) {
  const [text, setText] = useState(name);
  const finish = () => {
    const next = text.trim();
    if (!next && !mayBeEmpty) setText(name);
    else if (next !== name) onName(next);
  };
  return (
    <input
      className={`cond w-44 min-w-0 truncate rounded-sm border bg-transparent px-1 font-semibold text-[15px] focus:border-primary ${className}`}
      aria-label={label}
      title={name}
      placeholder={placeholder}
      maxLength={most}
      value={text}
      onChange={(event) => setText(event.target.value)}
      onBlur={finish}
      onKeyDown={(event) => {
        if (event.key === "Enter") event.currentTarget.blur();
        if (event.key === "Escape") setText(name);
      }}
    />
  );
}
