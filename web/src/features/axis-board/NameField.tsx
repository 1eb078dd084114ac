import { useState } from "react";
import { commit } from "../../stores/editing";

/** The name of a layer or clip, changed in place. */
export function NameField({ at, name, label }: { at: string; name: string; label: string }) {
  const [text, setText] = useState(name);
  const finish = () => {
    const next = text.trim();
    if (!next) setText(name);
    else if (next !== name) void commit({ type: "set_values", values: [{ at, value: next }] });
  };
  return (
    <input
      className="cond w-44 min-w-0 truncate rounded-sm border border-transparent bg-transparent px-1 font-semibold text-[15px] hover:border-base-300 focus:border-primary"
      aria-label={label}
      title={name}
      maxLength={120}
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
