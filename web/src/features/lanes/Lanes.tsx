import { useMemo } from "react";
import { useStore } from "zustand";
import { HEAD_PX, LaneSize } from "../../shared/LaneRow";
import { useShownShot } from "../../shared/useShownShot";
import { useSize } from "../../shared/useSize";
import { layersOf, openShot } from "../../stores/openShot";
import { selectNothing } from "../../stores/selection";
import { view } from "../../stores/view";
import { EmptyStack } from "./EmptyStack";
import type { MarkEntry, RowEntry, SheetEntry } from "./entries";
import { LaneGroup } from "./LaneGroup";
import { SheetSwitch, SUM_HEIGHT_PX, SumHead } from "./LaneHeads";
import { Playhead } from "./Playhead";
import { Ruler } from "./Ruler";
import { useCompact } from "./rowHeight";
import { SumWave } from "./SumWave";
import { useLaneWheel } from "./useLaneWheel";

/** The lanes under one ruler: rows of other kinds, the layers, or a sheet in their place, and the sum. */
export function Lanes({ rows, sheets, marks }: { rows: RowEntry[]; sheets: SheetEntry[]; marks: MarkEntry[] }) {
  const [ref, size] = useSize<HTMLDivElement>();
  const state = useStore(openShot, (each) => each.state);
  const { shot } = useShownShot();
  const selected = useStore(view, (each) => (each.board === "layer" ? each.layer : null));
  const open = useStore(view, (each) => each.sheet);
  const width = Math.max(0, size.width - HEAD_PX);
  const layers = state ? layersOf(state).length : 0;
  const compact = useCompact(layers);
  useLaneWheel(ref, width, HEAD_PX);
  const lane = useMemo(() => ({ headPx: HEAD_PX, width }), [width]);
  if (!state) return null;
  const sheet = sheets.find(({ id }) => id === open);
  const at = (place: RowEntry["place"]) =>
    rows.filter((each) => each.place === place).map(({ id, Row }) => <Row key={id} />);
  return (
    <div ref={ref} className="relative flex h-full flex-col overflow-hidden" data-testid="lanes">
      <div className="flex shrink-0">
        <SheetSwitch compact={compact} sheets={sheets} />
        <div className="relative">
          <Ruler width={width} />
          {marks.map(({ id, Marks }) => (
            <Marks key={id} width={width} />
          ))}
        </div>
      </div>
      <LaneSize.Provider value={lane}>
        {!sheet?.alone && at("above")}
        {sheet ? (
          <sheet.Sheet />
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
            {[...(shot ?? state.document).lanes].reverse().map((lane) => (
              <LaneGroup key={lane.id} lane={lane} selected={selected} compact={compact} />
            ))}
          </div>
        )}
        {!sheet?.alone && at("below")}
        {!sheet?.alone && (
          <div className="flex shrink-0 border-base-300 border-t bg-base-200">
            <SumHead />
            <SumWave width={width} height={SUM_HEIGHT_PX} />
          </div>
        )}
        <Playhead width={width} left={HEAD_PX} />
      </LaneSize.Provider>
    </div>
  );
}
