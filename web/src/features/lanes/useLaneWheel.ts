import { useEffect } from "react";
import { timeScale, zoomed } from "../../shared/timeScale";
import { transport } from "../../stores/transport";
import { view } from "../../stores/view";

/** Over the waves: Ctrl or Alt and wheel zooms about the pointer; with Shift, or sideways, it pans. Without keys it scrolls the rows. */
export function useLaneWheel(ref: React.RefObject<HTMLDivElement | null>, width: number, headPx: number): void {
  useEffect(() => {
    const element = ref.current;
    if (!element) return;
    const onWheel = (event: WheelEvent) => {
      const { window } = view.getState();
      const sideways = Math.abs(event.deltaX) >= Math.abs(event.deltaY);
      const over = event.clientX - element.getBoundingClientRect().left - headPx;
      if (over <= 0 || !(event.ctrlKey || event.shiftKey || event.altKey || sideways)) return;
      event.preventDefault();
      const across = event.shiftKey ? event.deltaY : event.deltaX;
      if (across !== 0 && !event.ctrlKey) {
        const by = ((window[1] - window[0]) * across) / Math.max(width, 1);
        view.setState({ window: [window[0] + by, window[1] + by] });
        return;
      }
      const { first, last } = transport.getState();
      const about = timeScale(window, width).invert(over);
      view.setState({ window: zoomed(window, about, Math.exp(event.deltaY * 0.002), first, last) });
    };
    element.addEventListener("wheel", onWheel, { passive: false });
    return () => element.removeEventListener("wheel", onWheel);
  }, [ref, width, headPx]);
}
