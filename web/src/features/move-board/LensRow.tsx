import { Pencil } from "lucide-react";
import { useEffect, useRef, useState } from "react";
import { useStore } from "zustand";
import { takeLens } from "../../acts/placing";
import { typedNumber } from "../../shared/number";
import { lenses, setLenses } from "../../stores/lenses";
import { complain } from "../../stores/notes";

const MAX_LENSES = 12;

/** Common lenses, a click each; the row itself is edited behind the pencil. */
export function LensRow({ fps }: { fps: number }) {
  const { mm } = useStore(lenses);
  const [editing, setEditing] = useState(false);
  if (editing) return <Editor mm={mm} fps={fps} onEnd={() => setEditing(false)} />;
  return (
    <fieldset className="flex min-h-[25px] min-w-0 items-center gap-0.5" aria-label="Common lenses">
      <span className="flex min-w-0 flex-1 flex-wrap">
        {mm.map((focal) => (
          <button
            key={focal}
            type="button"
            className="num h-6 min-w-[21px] shrink-0 rounded-sm text-[11px] hover:bg-(--wash)"
            title={`${focal} mm`}
            onClick={() => takeLens(focal)}
          >
            {focal}
          </button>
        ))}
      </span>
      <button
        type="button"
        aria-label="Change the row of lenses"
        title="Change the row of lenses"
        className="grid h-6 w-5 shrink-0 place-items-center rounded-sm text-(--graphite) hover:bg-(--wash)"
        onClick={() => setEditing(true)}
      >
        <Pencil size={11} />
      </button>
    </fieldset>
  );
}

function Editor({ mm, fps, onEnd }: { mm: number[]; fps: number; onEnd: () => void }) {
  const [text, setText] = useState(mm.join(" "));
  const input = useRef<HTMLInputElement>(null);
  // The input is focused when it opens.
  useEffect(() => input.current?.focus(), []);
  const keep = async () => {
    const words = text
      .split(/[\s,;]+/)
      .filter(Boolean)
      .slice(0, MAX_LENSES);
    try {
      setLenses(await Promise.all(words.map((word) => typedNumber("Lens", word, { unit: "mm", fps }))));
      onEnd();
    } catch (error) {
      complain(error);
    }
  };
  return (
    <input
      aria-label="Lenses of the row, in mm"
      title={`Up to ${MAX_LENSES} focal lengths in mm; Enter keeps them; leave empty for the standard ones`}
      className="num h-[25px] w-full rounded-sm border border-primary bg-base-100 px-1 text-xs"
      ref={input}
      value={text}
      onChange={(event) => setText(event.target.value)}
      onKeyDown={(event) => {
        event.stopPropagation();
        if (event.key === "Enter") void keep();
        if (event.key === "Escape") onEnd();
      }}
      onBlur={onEnd}
    />
  );
}
