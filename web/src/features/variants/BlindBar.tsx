import { useStore } from "zustand";
import { type Blind, counted, endBlind, ROUNDS, vote } from "../../stores/blind";
import { openShot } from "../../stores/openShot";
import { sides } from "../../stores/sides";

/** The question of a round; at the end what was better how often, and which is which. */
export function BlindBar({ test }: { test: Blind }) {
  const own = useStore(openShot, ({ state }) => state?.document.variants.find(({ id }) => id === state.variant)?.name);
  const other = useStore(sides, ({ shown }) => shown.find(({ key }) => key === test.pair[1])?.title);
  const round = test.votes.length + 1;
  if (round > ROUNDS) {
    const [one, two] = counted(test);
    const alike = ROUNDS - one - two;
    return (
      <p className="flex items-center gap-3 text-sm" role="status" data-testid="blind-result">
        <span className="flex-1">
          “{own}” was better {one} times, “{other}” {two} times{alike ? `, no difference ${alike} times` : ""}.
        </span>
        <button type="button" className="btn btn-xs" onClick={endBlind}>
          Done
        </button>
      </p>
    );
  }
  return (
    <div className="flex flex-wrap items-center gap-2 text-sm">
      <span className="flex-1" role="status">
        Round {round} of {ROUNDS}: which is better? A is on the left.
      </span>
      <button type="button" className="btn btn-xs" onClick={() => vote("a")}>
        A
      </button>
      <button type="button" className="btn btn-xs" onClick={() => vote("b")}>
        B
      </button>
      <button type="button" className="btn btn-xs" onClick={() => vote(null)}>
        No difference
      </button>
      <button type="button" className="btn btn-ghost btn-xs" onClick={endBlind}>
        Cancel
      </button>
    </div>
  );
}
