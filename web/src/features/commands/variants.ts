/** Actions of variants: switched by their number, made, compared. */
import { addVariant, carryTo, nextVariant, showAt, showNext, variantsNow } from "../../acts/variants";
import { selection } from "../../stores/selection";
import { BARE, endSides, flipSide, sideOf, sides } from "../../stores/sides";
import { view } from "../../stores/view";
import type { Action } from "./action";

const MAX_VARIANTS = 8;
const several = () => variantsNow().length > 1;

/** The next variant is shown next to the present one. */
function besideNext(): void {
  const next = nextVariant();
  if (next) flipSide(sideOf(next));
}

/** Copies what is selected into the next variant. */
function carry(): void {
  const next = nextVariant();
  if (next) carryTo(next.id);
}

export const VARIANTS: Action[] = [
  ...Array.from(
    { length: MAX_VARIANTS },
    (_, n): Action => ({
      id: `variant-${n + 1}`,
      title: `Show variant ${n + 1}`,
      also: "switch alternative take version",
      keys: [String(n + 1)],
      available: () => n < variantsNow().length,
      run: () => showAt(n),
    }),
  ),
  { id: "next-variant", title: "Show the next variant", keys: ["Shift+N"], available: several, run: showNext },
  { id: "new-variant", title: "New variant, as this one", also: "alternative", keys: [], run: addVariant },
  {
    id: "variants",
    title: "Variants: names, notes, order …",
    keys: ["Shift+W"],
    run: () => view.setState({ dialog: "variants" }),
  },
  {
    id: "beside-variant",
    title: "Compare with the next variant, side by side",
    also: "wipe blind test",
    keys: [],
    available: several,
    run: besideNext,
  },
  {
    id: "beside-bare",
    title: "Compare with the move without motion layers, side by side",
    keys: [],
    run: () => flipSide(BARE),
  },
  {
    id: "end-beside",
    title: "End comparing: back to the Set view",
    keys: [],
    available: () => sides.getState().shown.length > 0,
    run: endSides,
  },
  {
    id: "carry",
    title: "Copy the selected layers or clip to the next variant",
    keys: [],
    available: () => several() && ["layers", "clip"].includes(selection().kind),
    run: carry,
  },
];
