import type { Blend, Corner, Swatch } from "../../api/types";
import { CornerNumber } from "../../parts/CornerNumber";
import { drawScribble } from "../../parts/drawSwatch";
import { SwatchPicture } from "../../parts/SwatchPicture";
import { takeCard } from "../../shared/cardDrag";

const SCRIBBLE = { width: 46, height: 34 };

type CornerMarkProps = {
  blend: Blend;
  corner: Corner;
  swatch: Swatch | null;
  x: number;
  y: number;
  onGo: () => void;
  /** A preset's card was dropped on it. */
  onFill: (preset: string) => void;
};

/** A corner on the pad: the scribble of its layers. A click takes the place there, a card that is dropped comes into it. */
export function CornerMark({ blend, corner, swatch, x, y, onGo, onFill }: CornerMarkProps) {
  const number = blend.corners.indexOf(corner) + 1;
  const size = swatch ? `, ${swatch.typical_px.toFixed(0)} px` : "";
  return (
    <button
      type="button"
      aria-label={`Go to corner ${number}: ${corner.name}`}
      title={`${corner.name}${size}: click to go there, drop a preset to put it here`}
      className="-translate-x-1/2 -translate-y-1/2 absolute overflow-hidden rounded-sm bg-base-100 outline-primary hover:bg-(--wash) data-over:outline-2"
      style={{ left: x, top: y, ...SCRIBBLE }}
      onClick={onGo}
      {...takeCard(onFill)}
    >
      <SwatchPicture label={`Scribble of ${corner.name}`} swatch={swatch} draw={drawScribble} {...SCRIBBLE} />
      <span className="absolute top-0 left-0 flex bg-base-100/80">
        <CornerNumber blend={blend} corner={corner.id} />
      </span>
    </button>
  );
}
