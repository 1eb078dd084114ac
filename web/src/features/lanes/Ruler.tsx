import { useCallback, useRef } from "react";
import { useStore } from "zustand";
import { type TimeScale, ticks, timeScale } from "../../shared/timeScale";
import { pause, seek, transport } from "../../stores/transport";
import { view } from "../../stores/view";
import { LaneCanvas } from "./LaneCanvas";

const HEIGHT_PX = 26;

/** Frame numbers; dragging in it scrubs. */
export function Ruler({ width }: { width: number }) {
  const window = useStore(view, (state) => state.window);
  const first = useStore(transport, (state) => state.first);
  const last = useStore(transport, (state) => state.last);
  const loop = useStore(transport, (state) => state.loop);
  const draw = useCallback(
    (context: CanvasRenderingContext2D, x: TimeScale, canvas: HTMLCanvasElement) => {
      const style = getComputedStyle(canvas);
      context.font = '11px "IBM Plex Mono"';
      context.fillStyle = style.getPropertyValue("--graphite");
      context.strokeStyle = style.getPropertyValue("--color-base-300");
      const marks = ticks(window, width);
      const gap = (marks[1] ?? 2) - (marks[0] ?? 1);
      context.beginPath();
      for (const mark of marks) {
        context.fillText(String(mark), x(mark) + 3, 12);
        context.moveTo(x(mark), 4);
        context.lineTo(x(mark), HEIGHT_PX);
        for (let part = 1; part < 4 && gap >= 4; part++) {
          context.moveTo(x(mark + (gap * part) / 4), HEIGHT_PX - 5);
          context.lineTo(x(mark + (gap * part) / 4), HEIGHT_PX);
        }
      }
      context.stroke();
      context.fillStyle = style.color;
      context.globalAlpha = 0.12;
      context.fillRect(0, 0, Math.max(0, x(first)), HEIGHT_PX);
      context.fillRect(x(last), 0, width, HEIGHT_PX);
      if (loop) {
        context.globalAlpha = 1;
        context.fillStyle = style.getPropertyValue("--color-primary");
        context.fillRect(x(loop[0]), HEIGHT_PX - 4, Math.max(2, x(loop[1]) - x(loop[0])), 4);
      }
    },
    [window, width, first, last, loop],
  );
  const ranging = useRef<number | null>(null);
  const frameAt = (event: React.PointerEvent) => {
    const box = event.currentTarget.getBoundingClientRect();
    return Math.min(last, Math.max(first, Math.round(timeScale(window, width).invert(event.clientX - box.left))));
  };
  const scrub = (event: React.PointerEvent) => seek(frameAt(event));
  return (
    <div
      className="cursor-col-resize touch-none border-base-300 border-b"
      data-testid="ruler"
      title="Drag to scrub, Shift-drag for a loop range, double-click for the whole shot"
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        pause();
        if (event.detail === 2) transport.setState({ loop: null });
        ranging.current = event.shiftKey ? frameAt(event) : null;
        if (!event.shiftKey) scrub(event);
      }}
      onPointerMove={(event) => {
        if (!event.currentTarget.hasPointerCapture(event.pointerId)) return;
        const from = ranging.current;
        if (from === null) scrub(event);
        else transport.setState({ loop: [Math.min(from, frameAt(event)), Math.max(from, frameAt(event))] });
      }}
    >
      <LaneCanvas width={width} height={HEIGHT_PX} label="Frames" array="" draw={draw} />
    </div>
  );
}
