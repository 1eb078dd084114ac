import { useRef, useState } from "react";

type NameInputProps = {
  name: string;
  label: string;
  most: number;
  placeholder?: string;
  className?: string;
  /** The trimmed text, if it is another name. */
  onName: (name: string) => void;
  /** Whether the name may be empty. */
  mayBeEmpty?: boolean;
};

/** A name changed in place: Enter or leaving keeps it, Escape gives up. What is not being typed follows the name. */
export function NameInput({ name, label, most, placeholder, className = "", onName, mayBeEmpty }: NameInputProps) {
  const [typed, setTyped] = useState<string | null>(null);
  // Read when it is left, which Escape does before it is drawn again.
  const now = useRef(typed);
  const type = (text: string | null) => {
    now.current = text;
    setTyped(text);
  };
  const finish = () => {
    const next = now.current?.trim();
    type(null);
    if (next === undefined || next === name || (!next && !mayBeEmpty)) return;
    onName(next);
  };
  return (
    <input
      className={`cond w-44 min-w-0 truncate rounded-sm border bg-transparent px-1 font-semibold text-[15px] focus:border-primary ${className}`}
      aria-label={label}
      title={name}
      placeholder={placeholder}
      maxLength={most}
      value={typed ?? name}
      onChange={(event) => type(event.target.value)}
      onBlur={finish}
      onKeyDown={(event) => {
        if (event.key === "Enter") event.currentTarget.blur();
        if (event.key !== "Escape" || now.current === null) return;
        event.stopPropagation();
        type(null);
        event.currentTarget.blur();
      }}
    />
  );
}
