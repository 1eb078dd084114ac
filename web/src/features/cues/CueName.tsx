import { useState } from "react";
import { setCues } from "./cues";

/** What the selected cues are called; nothing is fine. */
export function CueName({ name }: { name: string }) {
  const [text, setText] = useState(name);
  const finish = () => {
    if (text.trim() !== name) void setCues({ name: text.trim() });
  };
  return (
    <input
      className="cond w-44 min-w-0 truncate rounded-sm border border-base-300 bg-transparent px-1 font-semibold text-[15px] focus:border-primary"
      aria-label="Name of the cue"
      placeholder="cue"
      maxLength={60}
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
