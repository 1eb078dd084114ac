/** A blind test between the shot and what stands beside it: which is which is hidden until the end. */
import { createStore } from "zustand/vanilla";
import { whenOpened } from "./openShot";

export const ROUNDS = 5;
/** The shot as it is shown. */
export const OWN = "own";

export type Blind = {
  /** What is compared, by key. */
  pair: [string, string];
  /** Whether A is the second of the pair, round by round. */
  turned: boolean[];
  /** What was better in each round that is over; nothing where they were alike. */
  votes: (string | null)[];
};

export const blind = createStore<{ test: Blind | null }>(() => ({ test: null }));

whenOpened(endBlind);

/** Begins one: the order is drawn anew for each round. */
export function startBlind(other: string): void {
  const turned = Array.from(crypto.getRandomValues(new Uint8Array(ROUNDS)), (byte) => byte % 2 === 1);
  blind.setState({ test: { pair: [OWN, other], turned, votes: [] } });
}

export function endBlind(): void {
  blind.setState({ test: null });
}

/** What A and B are in the round that is on. */
export function pairNow({ pair: [one, other], turned, votes }: Blind): { a: string; b: string } {
  return turned[votes.length] ? { a: other, b: one } : { a: one, b: other };
}

/** Ends a round. */
export function vote(better: "a" | "b" | null): void {
  blind.setState(({ test }) => {
    if (!test || test.votes.length >= ROUNDS) return {};
    return { test: { ...test, votes: [...test.votes, better && pairNow(test)[better]] } };
  });
}

/** How often each of the pair was better. */
export function counted({ pair: [one, other], votes }: Blind): [number, number] {
  return [votes.filter((each) => each === one).length, votes.filter((each) => each === other).length];
}
