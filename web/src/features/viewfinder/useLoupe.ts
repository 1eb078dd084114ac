import { useEffect } from "react";
import { view } from "../../stores/view";

const MOST_ZOOM = 8;

/** The middle kept so far inside that nothing outside the picture is shown. */
function inside(at: number, zoom: number): number {
  return Math.min(1 - 0.5 / zoom, Math.max(0.5 / zoom, at));
}

/** A close look at the picture: the wheel enlarges, dragging pans. The camera is not touched. */
export function useLoupe(ref: React.RefObject<HTMLElement | null>, active: boolean): void {
  useEffect(() => {
    const element = ref.current;
    if (!element || !active) return;
    let last: { x: number; y: number } | null = null;
    const wheel = (event: WheelEvent) => {
      event.preventDefault();
      const { loupe } = view.getState();
      const zoom = Math.min(MOST_ZOOM, Math.max(1, loupe.zoom * Math.exp(-event.deltaY * 0.0015)));
      const box = element.getBoundingClientRect();
      const dx = ((event.clientX - box.left) / box.width - 0.5) * (1 / loupe.zoom - 1 / zoom);
      const dy = ((event.clientY - box.top) / box.height - 0.5) * (1 / loupe.zoom - 1 / zoom);
      view.setState({ loupe: { zoom, x: inside(loupe.x + dx, zoom), y: inside(loupe.y + dy, zoom) } });
    };
    const down = (event: PointerEvent) => {
      if (event.button !== 0 || view.getState().loupe.zoom === 1) return;
      element.setPointerCapture(event.pointerId);
      last = { x: event.clientX, y: event.clientY };
    };
    const move = (event: PointerEvent) => {
      if (!last) return;
      const { loupe } = view.getState();
      const box = element.getBoundingClientRect();
      const x = inside(loupe.x - (event.clientX - last.x) / box.width / loupe.zoom, loupe.zoom);
      const y = inside(loupe.y - (event.clientY - last.y) / box.height / loupe.zoom, loupe.zoom);
      last = { x: event.clientX, y: event.clientY };
      view.setState({ loupe: { ...loupe, x, y } });
    };
    const up = () => {
      last = null;
    };
    element.addEventListener("wheel", wheel, { passive: false });
    element.addEventListener("pointerdown", down);
    element.addEventListener("pointermove", move);
    element.addEventListener("pointerup", up);
    element.addEventListener("pointercancel", up);
    return () => {
      element.removeEventListener("wheel", wheel);
      element.removeEventListener("pointerdown", down);
      element.removeEventListener("pointermove", move);
      element.removeEventListener("pointerup", up);
      element.removeEventListener("pointercancel", up);
    };
  }, [ref, active]);
}
