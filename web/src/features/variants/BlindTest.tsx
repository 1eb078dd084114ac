import { useCallback } from "react";
import { useStore } from "zustand";
import { SmallFinder } from "../../parts/SmallFinder";
import { blind, OWN, pairNow } from "../../stores/blind";
import { motion } from "../../stores/motion";
import { BARE, motionOf, sides } from "../../stores/sides";

/** Both pictures of a blind test side by side: same size, same height, no names and no figures. */
export function BlindTest() {
  const test = useStore(blind, (each) => each.test);
  if (!test) return null;
  const { a, b } = pairNow(test);
  return (
    <div className="grid h-full grid-cols-2 gap-2.5" data-testid="blind">
      <BlindFinder key={`${test.votes.length} A`} place="A" of={a} />
      <BlindFinder key={`${test.votes.length} B`} place="B" of={b} />
    </div>
  );
}

function BlindFinder({ place, of }: { place: "A" | "B"; of: string }) {
  const ready = useStore(sides, ({ motions }) => of === BARE.key || of === OWN || of in motions);
  const moved = useCallback(() => (of === OWN ? motion.getState() : motionOf(of)), [of]);
  return (
    <SmallFinder id={`blind:${place}`} motion={moved} ready={ready} mark={{ "data-place": place }}>
      <b className="rounded-sm bg-base-100/80 px-2 py-0.5 text-xs">{place}</b>
    </SmallFinder>
  );
}
