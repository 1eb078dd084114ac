import { X } from "lucide-react";
import { useEffect } from "react";
import { useStore } from "zustand";
import type { Preset, PresetEntry } from "../../api/types";
import { fitted } from "../../shared/fit";
import { useSize } from "../../shared/useSize";
import { openShot } from "../../stores/openShot";
import { presets, readable, toggleMark } from "../../stores/presets";
import { hang, stage } from "../../stores/stage";
import { transport } from "../../stores/transport";
import { endTrials, showTrials, trials } from "../../stores/trials";
import { blending, place, placing } from "./placing";
import { usePlacing } from "./sheetStore";

/** Marked presets in small Viewfinders, in step with the large one, where the Set view was. */
export function TrialPane() {
  const { marked, list } = useStore(presets);
  const chosen = marked.flatMap((key) => list.find((each) => each.key === key) ?? []).filter(readable);
  const where = usePlacing();
  const revision = useStore(openShot, (each) => each.state?.revision);
  const loop = useStore(transport, (each) => each.loop?.join());
  const asked = chosen.map(({ key, content }) => `${key} ${content}`).join();
  useEffect(() => {
    void showTrials(Object.fromEntries(chosen.map((entry) => [entry.key, placing(where, entry)])));
  }, [asked, revision, loop, where.way, where.clip, where.corner, where.withinFrames]);
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
          <SmallFinder key={entry.key} entry={entry} onPlace={() => place(placing(where, entry))} />
        ))}
      </div>
      {chosen.length > 1 && (
        <button
          type="button"
          className="btn btn-accent btn-xs absolute right-1 bottom-1"
          title="One clip with these presets in its corners, to go between them by hand"
          onClick={() => place(blending(chosen))}
        >
          Blend these
        </button>
      )}
    </div>
  );
}

type SmallFinderProps = { entry: PresetEntry & { preset: Preset }; onPlace: () => void };

function SmallFinder({ entry, onPlace }: SmallFinderProps) {
  const [ref, size] = useSize<HTMLDivElement>();
  const aspect = useStore(stage, (each) => each.aspect);
  const here = useStore(trials, ({ motions }) => entry.key in motions);
  const rect = fitted(size.width, size.height, aspect);
  const { name } = entry.preset;
  useEffect(() => {
    const pane = ref.current;
    if (!pane) return;
    const made = () => trials.getState().motions[entry.key] ?? null;
    return hang({ id: `trial:${entry.key}`, element: pane, camera: "lens", motion: made });
  }, [ref, entry.key]);
  return (
    <div ref={ref} className="relative min-h-0 overflow-hidden" data-trial={entry.key} data-ready={here ? "yes" : "no"}>
      <div
        className="pointer-events-none absolute"
        style={{ left: rect.x, top: rect.y, width: rect.width, height: rect.height }}
      >
        <div className="pointer-events-auto absolute inset-x-1 top-1 flex items-center gap-1">
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
            aria-label={`Compare ${name} no longer`}
            onClick={() => toggleMark(entry.key)}
          >
            <X size={12} />
          </button>
        </div>
      </div>
    </div>
  );
}
