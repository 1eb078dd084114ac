import { useCallback } from "react";
import { useStore } from "zustand";
import { type TimeScale, timeScale } from "../../shared/timeScale";
import { type DragState, useDragging } from "../../shared/useDragging";
import { pause, seek, transport } from "../../stores/transport";
import { view } from "../../stores/view";
import { drawRuler, RULER_HEIGHT_PX } from "./drawRuler";
import { LaneCanvas } from "./LaneCanvas";

/** Frame numbers; dragging in it scrubs. */
export function Ruler({ width }: { width: number }) {
  const window = useStore(view, (state) => state.window);
  const first = useStore(transport, (state) => state.first);
  const last = useStore(transport, (state) => state.last);
  const loop = useStore(transport, (state) => state.loop);
  const draw = useCallback(
    (context: CanvasRenderingContext2D, x: TimeScale, canvas: HTMLCanvasElement) =>
      drawRuler(context, x, canvas, { window, width, first, last, loop }),
    [window, width, first, last, loop],
  );
  const frameAt = (pointer: number, element: Element) => {
    const across = pointer - element.getBoundingClientRect().left;
    return Math.min(last, Math.max(first, Math.round(timeScale(window, width).invert(across))));
  };
  const range = ({ x, dx, element }: DragState<void>): [number, number] => {
    const [from, to] = [frameAt(x - dx, element), frameAt(x, element)];
    return [Math.min(from, to), Math.max(from, to)];
  };
  const follow = (held: DragState<void>, scrubbing: boolean) => {
    transport.setState({ scrubbing });
    if (held.shiftKey) transport.setState({ loop: range(held) });
    else seek(frameAt(held.x, held.element));
  };
  const bind = useDragging<void>({
    press: (held) => {
      pause();
      if (!held.shiftKey) seek(frameAt(held.x, held.element));
      return true;
    },
    move: (held) => follow(held, true),
    drop: (held) => follow(held, false),
    cancel: () => transport.setState({ scrubbing: false }),
  });
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: the arrow keys go through time everywhere on the page
    <div
      className="cursor-col-resize touch-none border-base-300 border-b"
      data-testid="ruler"
      title="Drag to scrub, Shift-drag for a loop range, double-click for the whole shot"
      {...bind()}
      onDoubleClick={() => transport.setState({ loop: null })}
    >
      <LaneCanvas width={width} height={RULER_HEIGHT_PX} label="Frames" array="" draw={draw} />
    </div>
  );
}
