import { useStore } from "zustand";
import { keysOf } from "../../api/param";
import { isExact, motion, rowOf } from "../../stores/motion";
import { seek, transport } from "../../stores/transport";
import { FrameCell } from "./FrameCell";
import type { Track } from "./groups";
import type { useTableEdits } from "./useTableEdits";

type FrameRowProps = {
  /** Counted from the shot's first frame. */
  row: number;
  frame: number;
  heightPx: number;
  tracks: Track[];
  times: number;
  unit: string;
  edits: ReturnType<typeof useTableEdits>;
};

/** The numbers at a frame. */
export function FrameRow({ row, frame, heightPx, tracks, times, unit, edits }: FrameRowProps) {
  const { arrays } = motion.getState();
  const here = useStore(transport, (state) => state.frame === frame);
  return (
    <tr style={{ height: heightPx }} aria-current={here || undefined} className={here ? "bg-(--wash)" : ""}>
      <td className="num border-base-300/60 border-b px-2 text-(--graphite)">
        <button type="button" className="w-full text-left" title="Go to this frame" onClick={() => seek(frame)}>
          {frame}
        </button>
      </td>
      {tracks.map(({ at, title, param }, column) => (
        <td key={at} className="border-base-300/60 border-b p-0">
          <FrameCell
            label={`${title} at frame ${frame}`}
            at={at}
            unit={unit}
            value={(arrays.get(`curve:${at}`)?.data[rowOf(frame)] ?? 0) * times}
            known={isExact(frame, frame)}
            keyed={keysOf(param).some((key) => key.frame === frame)}
            filled={edits.inFill(row, column)}
            onValue={(value) => edits.put(at, row, column, value)}
            onFocus={() => edits.start(row, column)}
            onReach={() => edits.reach(row, column)}
            onClear={() => edits.clearAt(at, row)}
            onPaste={(event) => edits.paste(event, row, column)}
          />
        </td>
      ))}
    </tr>
  );
}
