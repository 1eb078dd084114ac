/** Heights of rows: tall to work on, compact to see many. */
import { useStore } from "zustand";
import { view } from "../../stores/view";

const TALL_PX = 54;
const COMPACT_PX = 24;
/** With more layers than this, rows are compact by default. */
const MANY_LAYERS = 4;

/** Whether rows are compact: as chosen, or else by the number of layers. */
export function useCompact(layers: number): boolean {
  return useStore(view, (state) => state.compact ?? layers > MANY_LAYERS);
}

/** A row is tall while its layer is on the board, whatever the switch says. */
export function rowHeight(compact: boolean, onBoard: boolean): number {
  return compact && !onBoard ? COMPACT_PX : TALL_PX;
}

const LANE_PX = 46;
const COMPACT_LANE_PX = 26;
const HEAD_ALONE_PX = 20;

/** Height of a lane's bars, tall while one of them is on the board; only a head where there is no bar to show. */
export function laneHeight(compact: boolean, barred: boolean): number {
  if (!barred) return HEAD_ALONE_PX;
  return compact ? COMPACT_LANE_PX : LANE_PX;
}
