import { X } from "lucide-react";
import { type ReactNode, useCallback, useEffect } from "react";
import { useStore } from "zustand";
import type { State } from "../../api/types";
import { SmallFinder } from "../../parts/SmallFinder";
import { OWN, startBlind } from "../../stores/blind";
import { openShot } from "../../stores/openShot";
import { askSides, BARE, flipSide, motionOf, type Side, sides } from "../../stores/sides";
import { transport } from "../../stores/transport";

/** Compared motions, in Viewfinders in step with the large one, in place of the Set view. */
export function SidePane() {
  const shown = useStore(sides, (each) => each.shown);
  const revision = useStore(openShot, ({ state }) => `${state?.revision} ${state?.variant}`);
  const loop = useStore(transport, (each) => each.loop?.join());
  const shownKeys = shown.map(({ key }) => key).join();
  useEffect(() => {
    void askSides();
  }, [shownKeys, revision, loop]);
  const columns = shown.length > 1 ? 2 : 1;
  return (
    <div
      className="grid h-full gap-1.5"
      style={{ gridTemplateColumns: `repeat(${columns}, minmax(0, 1fr))` }}
      data-testid="sides"
    >
      {shown.map((side, place) => (
        <SideFinder key={side.key} side={side} foot={place === shown.length - 1 && <OtherWays first={shown[0]} />} />
      ))}
    </div>
  );
}

/** Other ways to compare than side by side. */
function OtherWays({ first }: { first: Side | undefined }) {
  const state = useStore(openShot, (each) => each.state);
  const layout = useStore(sides, (each) => each.how);
  return (
    <>
      <button
        type="button"
        className="btn btn-xs"
        aria-pressed={layout === "wipe"}
        title="The first of them over the large picture, right of a line that is dragged"
        onClick={() => sides.setState({ how: layout === "wipe" ? "panes" : "wipe" })}
      >
        Wipe
      </button>
      <button
        type="button"
        className="btn btn-xs"
        title="Which is better, with names hidden: five rounds in random order"
        onClick={() => first && state && startBlind(against(first, state))}
      >
        Blind test
      </button>
    </>
  );
}

/** A blind test of the present shot against another motion. */
function against({ key, title, variant }: Side, { document, variant: shown }: State): Parameters<typeof startBlind>[0] {
  const own = document.variants.find(({ id }) => id === shown);
  return {
    pair: [OWN, key],
    names: [own?.name ?? document.name, title],
    variants: [own?.id ?? null, variant ?? null],
  };
}

function SideFinder({ side, foot }: { side: Side; foot: ReactNode }) {
  const { key, title } = side;
  return (
    <FinderOf key={key} of={key} foot={foot}>
      <span className="cond min-w-0 truncate rounded-sm bg-base-100/80 px-1.5 py-0.5 text-xs" title={title}>
        {title}
        <TypicalOf of={key} />
      </span>
      <button
        type="button"
        className="btn btn-xs btn-square ml-auto bg-base-100/80"
        aria-label={`Stop comparing ${title}`}
        onClick={() => flipSide(side)}
      >
        <X size={12} />
      </button>
    </FinderOf>
  );
}

/** A small Viewfinder through which something is seen. */
function FinderOf({ of, children, foot }: { of: string; children: ReactNode; foot?: ReactNode }) {
  const here = useStore(sides, ({ motions }) => of === BARE.key || of in motions);
  const moved = useCallback(() => motionOf(of), [of]);
  return (
    <SmallFinder id={`side:${of}`} motion={moved} ready={here} mark={{ "data-side": of }} foot={foot}>
      {children}
    </SmallFinder>
  );
}

/** Its typical motion on screen. */
function TypicalOf({ of }: { of: string }) {
  const px = useStore(sides, ({ motions }) => motions[of]?.readings?.typical_px);
  if (of === BARE.key) return null;
  return <span className="num"> · typical {px === undefined ? "…" : px.toFixed(0)} px</span>;
}
