import { X } from "lucide-react";
import { useCallback, useEffect } from "react";
import { useStore } from "zustand";
import type { Preset, PresetEntry } from "../../api/types";
import { SmallFinder } from "../../parts/SmallFinder";
import { openShot } from "../../stores/openShot";
import { presets, readable, toggleMark } from "../../stores/presets";
import { transport } from "../../stores/transport";
import { endTrials, showTrials, trials } from "../../stores/trials";
import { blending, place, placing } from "./placing";
import { usePlacing } from "./sheetStore";

/** Marked presets in small Viewfinders, in step with the large one, where the Set view was. */
export function TrialPane() {
  const { marked, list } = useStore(presets);
  const chosen = marked.flatMap((key) => list.find((each) => each.key === key) ?? []).filter(readable);
  const where = usePlacing();
  const stateKey = useStore(openShot, ({ state }) => `${state?.revision} ${state?.variant}`);
  const loop = useStore(transport, (each) => each.loop?.join());
  const chosenKeys = chosen.map(({ key, content }) => `${key} ${content}`).join();
  useEffect(() => {
    void showTrials(Object.fromEntries(chosen.map((entry) => [entry.key, placing(where, entry)])));
  }, [chosenKeys, stateKey, loop, where.way, where.clip, where.corner, where.withinFrames]);
  useEffect(() => endTrials, []);
  const columns = chosen.length > 1 ? 2 : 1;
  return (
    <div className="relative h-full">
      <div
        className="grid h-full gap-1.5"
        style={{ gridTemplateColumns: `repeat(${columns}, minmax(0, 1fr))` }}
        data-testid="trials"
      >
        {chosen.map((entry) => (
          <TrialFinder key={entry.key} entry={entry} onPlace={() => place(placing(where, entry))} />
        ))}
      </div>
      {chosen.length > 1 && (
        <button
          type="button"
          className="btn btn-accent btn-xs absolute right-1 bottom-1"
          title="One clip with these presets as corners, for blending by hand"
          onClick={() => place(blending(chosen))}
        >
          Blend these
        </button>
      )}
    </div>
  );
}

type TrialFinderProps = { entry: PresetEntry & { preset: Preset }; onPlace: () => void };

function TrialFinder({ entry, onPlace }: TrialFinderProps) {
  const { key } = entry;
  const here = useStore(trials, ({ motions }) => key in motions);
  const moved = useCallback(() => trials.getState().motions[key] ?? null, [key]);
  const { name } = entry.preset;
  return (
    <SmallFinder id={`trial:${key}`} motion={moved} ready={here} mark={{ "data-trial": key }}>
      <span className="cond min-w-0 truncate rounded-sm bg-base-100/80 px-1.5 py-0.5 text-xs" title={name}>
        {name}
      </span>
      <button
        type="button"
        className="btn btn-xs ml-auto bg-base-100/80"
        aria-label={`Place ${name}`}
        onClick={onPlace}
      >
        Place
      </button>
      <button
        type="button"
        className="btn btn-xs btn-square bg-base-100/80"
        aria-label={`Stop comparing ${name}`}
        onClick={() => toggleMark(key)}
      >
        <X size={12} />
      </button>
    </SmallFinder>
  );
}
