import { useVirtualizer } from "@tanstack/react-virtual";
import { useEffect, useRef } from "react";
import { useMotionVersion } from "../../shared/useMotionVersion";
import { motion } from "../../stores/motion";
import { transport } from "../../stores/transport";
import { view } from "../../stores/view";
import { FrameRow } from "./FrameRow";
import type { GroupProps } from "./groups";
import { TableHead } from "./TableHead";
import { useTableEdits } from "./useTableEdits";

const ROW_PX = 22;
const OVERSCAN = 6;
const HEAD_PX = 20;
const ABOVE = 3;

/** Frames down, numbers across. Typing in a cell sets a key, over a Shift-clicked stretch many; a block is pasted as a spreadsheet copies it. */
export function FrameTable({ tracks, unit, times, width }: GroupProps) {
  const ref = useRef<HTMLDivElement>(null);
  useMotionVersion();
  const { first, last } = motion.getState();
  const frames = last - first + 1;
  const edits = useTableEdits(tracks, times, unit, first, frames);
  const rows = useVirtualizer({
    count: frames,
    getScrollElement: () => ref.current,
    estimateSize: () => ROW_PX,
    overscan: OVERSCAN,
    scrollMargin: HEAD_PX,
    initialOffset: Math.max(0, transport.getState().frame - first - ABOVE) * ROW_PX,
  });
  // The table follows the playhead, unless a cell is being edited.
  useEffect(() => {
    let before = transport.getState().frame;
    return transport.subscribe(({ frame }) => {
      if (frame === before) return;
      before = frame;
      if (ref.current?.contains(document.activeElement)) return;
      const top = (frame - first) * ROW_PX;
      const { scrollTop = 0, clientHeight = 0 } = ref.current ?? {};
      if (top < scrollTop || top + ROW_PX + HEAD_PX > scrollTop + clientHeight)
        rows.scrollToOffset(Math.max(0, top - ABOVE * ROW_PX));
    });
  }, [first, rows]);
  const shown = rows.getVirtualItems();
  const [from, to] = [shown[0]?.index ?? 0, (shown.at(-1)?.index ?? -1) + 1];
  useEffect(() => {
    view.setState({ rowsInView: [first + from, first + to] });
    return () => view.setState({ rowsInView: null });
  }, [first, from, to]);
  return (
    <div ref={ref} className="relative min-w-0 overflow-auto" style={{ width }}>
      <table className="w-max border-collapse text-xs" aria-label="Frame table">
        <TableHead tracks={tracks} unit={unit} onClear={edits.clear} />
        <tbody>
          {from > 0 && <tr style={{ height: from * ROW_PX }} />}
          {shown.map(({ index }) => (
            <FrameRow
              key={index}
              row={index}
              frame={first + index}
              heightPx={ROW_PX}
              tracks={tracks}
              times={times}
              unit={unit}
              edits={edits}
            />
          ))}
          {to < frames && <tr style={{ height: (frames - to) * ROW_PX }} />}
        </tbody>
      </table>
    </div>
  );
}
