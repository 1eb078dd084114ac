import { useState } from "react";
import type { Layer } from "../../api/types";
import { commit } from "../../stores/editing";

/** The name of a layer, changed in place. */
export function LayerName({ layer }: { layer: Layer }) {
  const [text, setText] = useState(layer.name);
  const finish = () => {
    const name = text.trim();
    if (!name) setText(layer.name);
    else if (name !== layer.name)
      void commit({ type: "set_values", values: [{ at: `layer:${layer.id}.name`, value: name }] });
  };
  return (
    <input
      className="cond w-44 min-w-0 truncate rounded-sm border border-transparent bg-transparent px-1 font-semibold text-[15px] hover:border-base-300 focus:border-primary"
      aria-label="Layer name"
      title={layer.name}
      maxLength={120}
      value={text}
      onChange={(event) => setText(event.target.value)}
      onBlur={finish}
      onKeyDown={(event) => {
        if (event.key === "Enter") event.currentTarget.blur();
        if (event.key === "Escape") setText(layer.name);
      }}
    />
  );
}
