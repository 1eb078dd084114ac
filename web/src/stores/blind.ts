/** A blind test between the shot and another motion: which is which is hidden until the end. */
import { createStore } from "zustand/vanilla";
import { openShot, whenOpened } from "./openShot";
import { view } from "./view";

export const ROUNDS = 5;
/** The shot as displayed. */
export const OWN = "own";

export type Blind = {
  /** Keys of the two motions. */
  pair: [string, string];
  /** Their names at the start. */
  names: [string, string];
  /** Variants that they are; null for anything else. */
  variants: [string | null, string | null];
  /** Whether A is the second of the pair, in each round. */
  turned: boolean[];
  /** Key that was better in each finished round; null for no difference. */
  votes: (string | null)[];
};

export const blind = createStore<{ test: Blind | null }>(() => ({ test: null }));

whenOpened(endBlind);

/** Begins one, with a random order in each round. An edit or another variant ends it: the pictures would be others. */
export function startBlind(test: Pick<Blind, "pair" | "names" | "variants">): void {
  const turned = Array.from(crypto.getRandomValues(new Uint8Array(ROUNDS)), (byte) => byte % 2 === 1);
  view.setState({ bare: false, bypass: false });
  blind.setState({ test: { ...test, turned, votes: [] } });
}

openShot.subscribe(({ state }, before) => {
  const test = blind.getState().test;
  if (!test || !isRunning(test)) return;
  if (state?.revision !== before.state?.revision || state?.variant !== before.state?.variant) endBlind();
});

export function endBlind(): void {
  blind.setState({ test: null });
}

export const isRunning = ({ votes }: Blind): boolean => votes.length < ROUNDS;

/** The motions of A and B in the present round. */
export function pairNow({ pair: [one, other], turned, votes }: Blind): { a: string; b: string } {
  return turned[votes.length] ? { a: other, b: one } : { a: one, b: other };
}

/** Ends a round. */
export function vote(better: "a" | "b" | null): void {
  blind.setState(({ test }) => {
    if (!test || !isRunning(test)) return {};
    return { test: { ...test, votes: [...test.votes, better && pairNow(test)[better]] } };
  });
}

/** Number of rounds that each of the pair won. */
export function counted({ pair: [one, other], votes }: Blind): [number, number] {
  return [votes.filter((each) => each === one).length, votes.filter((each) => each === other).length];
}
