import { useStore } from "zustand";
import { type Blind, blind, counted, endBlind, isRunning, ROUNDS, vote } from "../../stores/blind";
import { commit, showVariant } from "../../stores/editing";
import { openShot } from "../../stores/openShot";

/** Under the pictures of a blind test, in place of the lanes: the question of a round, and at the end the result. */
export function BlindBar() {
  const test = useStore(blind, (each) => each.test);
  if (!test) return null;
  return (
    <section aria-label="Blind test" className="flex flex-1 flex-col items-center justify-center gap-4 p-4 text-sm">
      {isRunning(test) ? <Question test={test} /> : <Result test={test} />}
    </section>
  );
}

function Question({ test }: { test: Blind }) {
  return (
    <>
      <p role="status" className="font-semibold text-base">
        Round {test.votes.length + 1} of {ROUNDS}: which is better?
      </p>
      <div className="flex gap-2">
        <button type="button" className="btn btn-sm w-28" onClick={() => vote("a")}>
          A, left
        </button>
        <button type="button" className="btn btn-sm" onClick={() => vote(null)}>
          No difference
        </button>
        <button type="button" className="btn btn-sm w-28" onClick={() => vote("b")}>
          B, right
        </button>
      </div>
      <p className="text-(--graphite)">Names, figures and lanes are hidden until the end. Space plays.</p>
      <button type="button" className="btn btn-ghost btn-xs" onClick={endBlind}>
        Cancel blind test
      </button>
    </>
  );
}

function Result({ test }: { test: Blind }) {
  const wins = counted(test);
  const ties = ROUNDS - wins[0] - wins[1];
  const main = useStore(openShot, ({ state }) => state?.document.main);
  const best = wins[0] > wins[1] ? 0 : wins[1] > wins[0] ? 1 : null;
  const variant = best === null ? null : test.variants[best];
  const use = async (id: string) => {
    endBlind();
    await showVariant(id);
    if (id !== main) await commit({ type: "set_main", variant: id });
  };
  return (
    <>
      <table className="text-base" data-testid="blind-result">
        <caption className="pb-1 font-semibold">Result of {ROUNDS} rounds</caption>
        <tbody>
          {test.names.map((name, n) => (
            <tr key={test.pair[n]} className={n === best ? "font-semibold" : ""}>
              <td className="max-w-80 truncate pr-6" title={name}>
                {name}
              </td>
              <td className="num text-right">preferred {wins[n]} ×</td>
            </tr>
          ))}
          <tr>
            <td className="pr-6">No difference</td>
            <td className="num text-right">{ties} ×</td>
          </tr>
        </tbody>
      </table>
      <div className="flex gap-2">
        {variant !== null && (
          <button
            type="button"
            className="btn btn-sm btn-primary"
            title="Makes it the main variant and shows it"
            onClick={() => void use(variant)}
          >
            Use the preferred one
          </button>
        )}
        <button type="button" className="btn btn-sm" onClick={endBlind}>
          Close
        </button>
      </div>
    </>
  );
}
