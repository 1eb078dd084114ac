import { useStore } from "zustand";
import { useSize } from "../../shared/useSize";
import { layersOf, openShot } from "../../stores/openShot";
import { selectNothing } from "../../stores/selection";
import { view } from "../../stores/view";
import { CueRow } from "../cues";
import { Sheet } from "../curves";
import { DialRow } from "../dials";
import { PresetSheet } from "../presets";
import { EmptyStack } from "./EmptyStack";
import { LaneGroup } from "./LaneGroup";
import { HEAD_PX, SheetSwitch, SUM_HEIGHT_PX, SumHead } from "./LaneHeads";
import { LayerWave } from "./LayerWave";
import { Playhead } from "./Playhead";
import { RigRows } from "./RigRows";
import { Ruler } from "./Ruler";
import { useCompact } from "./rowHeight";
import { useLaneWheel } from "./useLaneWheel";

/** The lanes: move, layers, sum, under one ruler. */
export function Lanes() {
  const [ref, size] = useSize<HTMLDivElement>();
  const state = useStore(openShot, (each) => each.state);
  const selected = useStore(view, (each) => (each.board === "layer" ? each.layer : null));
  const sheet = useStore(view, (each) => each.sheet);
  const width = Math.max(0, size.width - HEAD_PX);
  const layers = state ? layersOf(state).length : 0;
  const compact = useCompact(layers);
  useLaneWheel(ref, width, HEAD_PX);
  if (!state) return null;
  const group = { width, headPx: HEAD_PX, selected, compact };
  return (
    <div ref={ref} className="relative flex h-full flex-col overflow-hidden" data-testid="lanes">
      <div className="flex shrink-0">
        <SheetSwitch compact={compact} />
        <Ruler width={width} />
      </div>
      <CueRow width={width} headPx={HEAD_PX} />
      <RigRows width={width} headPx={HEAD_PX} shot={state.document} />
      {sheet === "presets" ? (
        <PresetSheet headPx={HEAD_PX} />
      ) : sheet ? (
        <Sheet width={width} headPx={HEAD_PX} />
      ) : (
        // A click on empty paper selects nothing; Escape does the same.
        // biome-ignore lint/a11y/noStaticElementInteractions: it only takes back, and Escape does too
        // biome-ignore lint/a11y/useKeyWithClickEvents: it only takes back, and Escape does too
        <div
          className="min-h-0 flex-1 overflow-y-auto overflow-x-hidden"
          data-testid="paper"
          onClick={(event) => event.target === event.currentTarget && selectNothing()}
        >
          {layers === 0 && <EmptyStack left={HEAD_PX} />}
          {[...state.document.lanes].reverse().map((lane) => (
            <LaneGroup key={lane.id} lane={lane} {...group} />
          ))}
        </div>
      )}
      <DialRow headPx={HEAD_PX} />
      <div className="flex shrink-0 border-base-300 border-t bg-base-200">
        <SumHead />
        <LayerWave width={width} height={SUM_HEIGHT_PX} array="sum" of={null} />
      </div>
      <Playhead width={width} left={HEAD_PX} />
    </div>
  );
}
