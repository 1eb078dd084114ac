import { useEffect, useRef, useState } from "react";
import { useMotionVersion } from "../../shared/useMotionVersion";
import { isExact, motion, rowOf } from "../../stores/motion";
import { note } from "../../stores/notes";
import { commit } from "../../stores/session";
import { seek, transport } from "../../stores/transport";
import { view } from "../../stores/view";
import { FrameCell } from "./FrameCell";
import type { GroupProps, Track } from "./groups";

const ROW_PX = 22;
const OVERSCAN = 6;

/** Frames down, numbers across. Typing in a cell sets a key, over a Shift-clicked stretch many; a block is pasted as a spreadsheet copies it. */
export function FrameTable({ tracks, unit, times, width }: GroupProps) {
  const ref = useRef<HTMLDivElement>(null);
  const [top, setTop] = useState(0);
  const [height, setHeight] = useState(0);
  const [fill, setFill] = useState<{ column: number; from: number; to: number } | null>(null);
  useMotionVersion();
  const { first, last, arrays } = motion.getState();
  const frames = last - first + 1;

  useEffect(() => {
    const element = ref.current;
    if (!element) return;
    element.scrollTop = Math.max(0, (transport.getState().frame - motion.getState().first - 3) * ROW_PX);
    setHeight(element.clientHeight);
  }, []);

  const paste = (event: React.ClipboardEvent, row: number, column: number) => {
    const lines = event.clipboardData
      .getData("text")
      .trimEnd()
      .split(/\r?\n/)
      .map((line) => line.split("\t"));
    if (lines.length === 1 && lines[0]?.length === 1) return;
    event.preventDefault();
    const keys: { at: string; frame: number; value: number }[] = [];
    for (const [down, cells] of lines.entries()) {
      for (const [across, text] of cells.entries()) {
        const track = tracks[column + across];
        const frame = first + row + down;
        if (!track || row + down >= frames || text.trim() === "") continue;
        const value = Number(text.trim().replace(",", "."));
        if (!Number.isFinite(value)) {
          note(
            "error",
            `Nothing was pasted: “${text.slice(0, 40)}” (line ${down + 1}, column ${across + 1}) is not a number.`,
          );
          return;
        }
        keys.push({ at: track.at, frame, value: value / times });
      }
    }
    if (keys.length) void commit({ type: "set_keys", keys });
  };

  const from = Math.max(0, Math.floor(top / ROW_PX) - OVERSCAN);
  const to = Math.min(frames, Math.ceil((top + height) / ROW_PX) + OVERSCAN);
  useEffect(() => {
    view.setState({ rowsInView: [first + from, first + to] });
    return () => view.setState({ rowsInView: null });
  }, [first, from, to]);
  const inFill = (row: number, column: number) =>
    fill !== null &&
    fill.column === column &&
    fill.from !== fill.to &&
    row >= Math.min(fill.from, fill.to) &&
    row <= Math.max(fill.from, fill.to);
  const put = (track: Track, row: number, column: number, value: number) => {
    const rows =
      fill && inFill(row, column)
        ? Array.from({ length: Math.abs(fill.to - fill.from) + 1 }, (_, i) => Math.min(fill.from, fill.to) + i)
        : [row];
    void commit({
      type: "set_keys",
      keys: rows.map((each) => ({ at: track.at, frame: first + each, value: value / times })),
    });
  };
  const clear = (track: Track) => {
    if (track.param.state === "keyed")
      void commit({
        type: "delete_keys",
        keys: track.param.curve.keys.map((key) => ({ at: track.at, frame: key.frame })),
      });
  };
  return (
    <div
      ref={ref}
      className="relative min-w-0 overflow-auto"
      style={{ width }}
      onScroll={(event) => {
        setTop(event.currentTarget.scrollTop);
        setHeight(event.currentTarget.clientHeight);
      }}
    >
      <table className="w-max border-collapse text-xs" aria-label="Frame table">
        <thead className="sticky top-0 z-10 bg-base-100">
          <tr>
            <th className="cond w-16 border-base-300 border-b px-2 text-left font-normal text-(--graphite)">frame</th>
            {tracks.map((track) => (
              <th key={track.at} className="cond w-32 border-base-300 border-b px-2 text-right font-normal">
                {track.title} {unit}
                <button
                  type="button"
                  className="btn btn-ghost btn-xs ml-1 h-4 min-h-0 px-1"
                  title={`Delete all keys of ${track.title}`}
                  disabled={track.param.state !== "keyed"}
                  onClick={() => clear(track)}
                >
                  clear
                </button>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {from > 0 && <tr style={{ height: from * ROW_PX }} />}
          {Array.from({ length: Math.max(0, to - from) }, (_, i) => from + i).map((row) => (
            <tr key={row} style={{ height: ROW_PX }}>
              <td className="num border-base-300/60 border-b px-2 text-(--graphite)">
                <button
                  type="button"
                  className="w-full text-left"
                  title="Go to this frame"
                  onClick={() => seek(first + row)}
                >
                  {first + row}
                </button>
              </td>
              {tracks.map((track, column) => (
                <td key={track.at} className="border-base-300/60 border-b p-0">
                  <FrameCell
                    label={`${track.title} at frame ${first + row}`}
                    value={(arrays.get(`curve:${track.at}`)?.data[rowOf(first + row)] ?? 0) * times}
                    known={isExact(first + row, first + row)}
                    keyed={
                      track.param.state === "keyed" && track.param.curve.keys.some((key) => key.frame === first + row)
                    }
                    onValue={(value) => put(track, row, column, value)}
                    filled={inFill(row, column)}
                    onFocus={() => setFill({ column, from: row, to: row })}
                    onReach={() =>
                      setFill((before) =>
                        before?.column === column ? { ...before, to: row } : { column, from: row, to: row },
                      )
                    }
                    onClear={() => void commit({ type: "delete_keys", keys: [{ at: track.at, frame: first + row }] })}
                    onPaste={(event) => paste(event, row, column)}
                  />
                </td>
              ))}
            </tr>
          ))}
          {to < frames && <tr style={{ height: (frames - to) * ROW_PX }} />}
        </tbody>
      </table>
    </div>
  );
}
