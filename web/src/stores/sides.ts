/** Motions compared side by side with the shot: other variants, older revisions, the move without layers; all in step. */
import { createStore } from "zustand/vanilla";
import { type Motion, motion } from "./motion";
import { complain } from "./notes";
import { whenOpened } from "./openShot";
import { type MotionRequest, type Motions, parallelMotions } from "./parallelMotions";

/** One of them: a variant, a revision, another shot in the same set; with none of these the move without its layers. */
export type Side = { key: string; title: string; variant?: string; revision?: number; shot?: string };

/** Layout of the comparison: each in a separate Viewfinder, or the first of them over the large one, right of a line. */
export type SideLayout = "panes" | "wipe";

export type Sides = {
  shown: Side[];
  motions: Motions;
  how: SideLayout;
  /** Position of the line, as a share of the picture's width. */
  line: number;
};

/** Besides the shot itself: the wall has room for four. */
export const MAX_SIDES = 3;
export const BARE: Side = { key: "bare", title: "No layers" };

/** A variant as one of them. */
export const sideOf = ({ id, name }: { id: string; name: string }): Side => ({
  key: `variant:${id}`,
  title: name,
  variant: id,
});

const NOTHING: Sides = { shown: [], motions: {}, how: "panes", line: 0.5 };

export const sides = createStore<Sides>(() => NOTHING);

whenOpened(() => sides.setState(NOTHING));

/** Adds a comparison, or removes it; a fourth replaces the oldest. */
export function flipSide(side: Side): void {
  sides.setState(({ shown }) => ({
    shown: shown.some(({ key }) => key === side.key)
      ? shown.filter(({ key }) => key !== side.key)
      : [...shown.slice(1 - MAX_SIDES), side],
  }));
}

export function endSides(): void {
  sides.setState({ shown: [], motions: {}, how: "panes" });
}

const { show } = parallelMotions(
  () => sides.getState().motions,
  (motions) => sides.setState({ motions }),
);

/** Requests the motion of each. */
export function askSides(): Promise<void> {
  const moved = sides.getState().shown.filter(({ key }) => key !== BARE.key);
  const requests = moved.map(({ key, variant, revision, shot }): [string, MotionRequest] => [
    key,
    { revision, shot, ...(shot !== undefined ? { variant: null } : variant === undefined ? {} : { variant }) },
  ]);
  return show(Object.fromEntries(requests), (error, key) => {
    complain(error);
    sides.setState(({ shown }) => ({ shown: shown.filter((one) => one.key !== key) }));
  });
}

/** A shot's motion without its layers. */
function bareOf(state: Motion): Motion {
  const bare = state.arrays.get("bare");
  if (!bare) return state;
  return { ...state, arrays: new Map([...state.arrays, ["pose", bare]]) };
}

let known: { of: Motion; bare: Motion } | null = null;

/** The pose of the lens of one of them; null while it is loading. */
export function motionOf(key: string): Motion | null {
  if (key !== BARE.key) return sides.getState().motions[key] ?? null;
  const now = motion.getState();
  if (known?.of !== now) known = { of: now, bare: bareOf(now) };
  return known.bare;
}
