import { useState } from "react";
import { keysOf } from "../../api/param";
import { commit } from "../../stores/editing";
import { note } from "../../stores/notes";
import type { Track } from "./groups";
import { cellsOf, numbersIn } from "./paste";

type Fill = { column: number; from: number; to: number };

/** Edits in the frame table: rows are counted from the shot's first frame. A typed value goes to a Shift-clicked stretch of its column. */
export function useTableEdits(tracks: Track[], times: number, unit: string, first: number, frames: number) {
  const [fill, setFill] = useState<Fill | null>(null);
  const inFill = (row: number, column: number) =>
    fill?.column === column &&
    fill.from !== fill.to &&
    row >= Math.min(fill.from, fill.to) &&
    row <= Math.max(fill.from, fill.to);
  const set = (cells: { at: string; row: number; value: number }[]) =>
    commit({
      type: "set_keys",
      keys: cells.map(({ at, row, value }) => ({ at, frame: first + row, value: value / times })),
    });
  const setCell = (at: string, row: number, column: number, value: number) => {
    const [from, to] =
      fill && inFill(row, column) ? [Math.min(fill.from, fill.to), Math.max(fill.from, fill.to)] : [row, row];
    void set(Array.from({ length: to - from + 1 }, (_, i) => ({ at, row: from + i, value })));
  };
  const paste = (event: React.ClipboardEvent, row: number, column: number) => {
    const cells = cellsOf(event.clipboardData.getData("text"));
    if (!cells) return;
    event.preventDefault();
    void pasted(cells, row, column);
  };
  const pasted = async (cells: string[][], row: number, column: number) => {
    try {
      const inside = (await numbersIn(cells, unit)).flatMap(({ down, across, value }) => {
        const track = tracks[column + across];
        return track && row + down < frames ? [{ at: track.at, row: row + down, value }] : [];
      });
      if (inside.length) void set(inside);
    } catch (error) {
      note("error", error instanceof Error ? error.message : String(error));
    }
  };
  const clear = ({ at, param }: Track) =>
    void commit({ type: "delete_keys", keys: keysOf(param).map(({ frame }) => ({ at, frame })) });
  const clearAt = (at: string, row: number) => void commit({ type: "delete_keys", keys: [{ at, frame: first + row }] });
  const start = (row: number, column: number) => setFill({ column, from: row, to: row });
  const reach = (row: number, column: number) =>
    setFill((before) => (before?.column === column ? { ...before, to: row } : { column, from: row, to: row }));
  return { inFill, put: setCell, paste, clear, clearAt, start, reach };
}
