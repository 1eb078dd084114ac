import { Pencil } from "lucide-react";
import { useStore } from "zustand";
import { formulaOf, roughly, varies } from "../../api/param";
import type { Param } from "../../api/types";
import { view } from "../../stores/view";
import { DrawSurface } from "./DrawSurface";
import { Hull } from "./Hull";
import { HullLevel } from "./HullLevel";

type WeightEditorProps = {
  at: string;
  /** Addresses that a change of the level goes to. */
  alike: () => string[];
  title: string;
  param: Param;
  /** Position during a drag of the level. */
  left?: number;
  levelWidth?: number;
  width: number;
  height: number;
};

/** A weight or amount, edited on its hull: its level or its points dragged, or drawn by hand. A formula is edited where it is written. */
export function WeightEditor({ at, alike, title, param, left, levelWidth, width, height }: WeightEditorProps) {
  const drawing = useStore(view, (each) => each.drawing);
  if (formulaOf(param)) return null;
  const size = { width, height };
  return (
    <>
      {varies(param) && <Hull at={at} title={title} param={param} {...size} />}
      {!varies(param) && (
        <HullLevel
          at={alike}
          title={title}
          weight={roughly(param)}
          left={left}
          width={levelWidth ?? width}
          height={height}
        />
      )}
      {drawing && <DrawSurface at={at} title={title} {...size} />}
      <button
        type="button"
        aria-pressed={drawing}
        aria-label={`Draw the ${title} by hand`}
        title="Draw by hand: drag over the lane (U)"
        className={`absolute bottom-0.5 left-[18px] z-[8] rounded-sm border px-0.5 ${drawing ? "border-primary bg-primary text-primary-content" : "border-base-300 bg-base-100 text-(--graphite) hover:text-primary"}`}
        onClick={() => view.setState({ drawing: !drawing })}
      >
        <Pencil size={11} />
      </button>
    </>
  );
}
