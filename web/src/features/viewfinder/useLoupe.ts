import { useEffect, useRef } from "react";
import { useDraggingOn } from "../../shared/useDragging";
import { view } from "../../stores/view";

const MAX_ZOOM = 8;
const ZOOM = 0.0015;

/** The middle kept so far inside that nothing outside the picture is shown. */
function inside(at: number, zoom: number): number {
  return Math.min(1 - 0.5 / zoom, Math.max(0.5 / zoom, at));
}

/** A close look at the picture: the wheel enlarges, dragging pans. The camera is not touched. */
export function useLoupe(element: HTMLElement | null, active: boolean): void {
  const start = useRef({ x: 0.5, y: 0.5 });
  useDraggingOn(
    element,
    {
      press: () => {
        start.current = view.getState().loupe;
        return view.getState().loupe.zoom > 1;
      },
      move: ({ dx, dy, element: pane }) => {
        const { zoom } = view.getState().loupe;
        const { width, height } = pane.getBoundingClientRect();
        const x = inside(start.current.x - dx / width / zoom, zoom);
        const y = inside(start.current.y - dy / height / zoom, zoom);
        view.setState({ loupe: { zoom, x, y } });
      },
    },
    active,
  );
  useEffect(() => {
    if (!element || !active) return;
    const wheel = (event: WheelEvent) => {
      event.preventDefault();
      const { loupe } = view.getState();
      const zoom = Math.min(MAX_ZOOM, Math.max(1, loupe.zoom * Math.exp(-event.deltaY * ZOOM)));
      const box = element.getBoundingClientRect();
      const dx = ((event.clientX - box.left) / box.width - 0.5) * (1 / loupe.zoom - 1 / zoom);
      const dy = ((event.clientY - box.top) / box.height - 0.5) * (1 / loupe.zoom - 1 / zoom);
      view.setState({ loupe: { zoom, x: inside(loupe.x + dx, zoom), y: inside(loupe.y + dy, zoom) } });
    };
    element.addEventListener("wheel", wheel, { passive: false });
    return () => element.removeEventListener("wheel", wheel);
  }, [element, active]);
}
