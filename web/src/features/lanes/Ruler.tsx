import { useCallback } from "react";
import { useStore } from "zustand";
import { type TimeScale, ticks, timeScale } from "../../shared/timeScale";
import { pause, seek, transport } from "../../stores/transport";
import { view } from "../../stores/view";
import { LaneCanvas } from "./LaneCanvas";

const HEIGHT_PX = 26;

/** Frame numbers; dragging in it scrubs. */
export function Ruler({ width }: { width: number }) {
  const window = useStore(view, (state) => state.window);
  const { first, last } = useStore(transport);
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
    },
    [window, width, first, last],
  );
  const scrub = (event: React.PointerEvent) => {
    const box = event.currentTarget.getBoundingClientRect();
    seek(timeScale(window, width).invert(event.clientX - box.left));
  };
  return (
    <div
      className="cursor-col-resize touch-none border-base-300 border-b"
      data-testid="ruler"
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        pause();
        scrub(event);
      }}
      onPointerMove={(event) => {
        if (event.currentTarget.hasPointerCapture(event.pointerId)) scrub(event);
      }}
    >
      <LaneCanvas width={width} height={HEIGHT_PX} label="Frames" draw={draw} />
    </div>
  );
}
