import { useEffect, useState } from "react";

type Range = [number, number];
const ZOOM = 0.002;
const ALT_PX = 600;

/** The stretch of values in view: fitted, until the wheel zooms it about the pointer or, with Alt, shifts it. */
export function useValueRange(
  svg: React.RefObject<SVGSVGElement | null>,
  fit: Range,
  invert: (y: number, range: Range) => number,
) {
  const [range, setRange] = useState<Range | null>(null);
  const values = range ?? fit;
  useEffect(() => {
    const element = svg.current;
    if (!element) return;
    const wheel = (event: WheelEvent) => {
      if (event.ctrlKey || event.shiftKey) return;
      event.preventDefault();
      event.stopPropagation();
      const about = invert(event.clientY - element.getBoundingClientRect().top, values);
      const factor = event.altKey ? 1 : Math.exp(event.deltaY * ZOOM);
      const shift = event.altKey ? ((values[1] - values[0]) * event.deltaY) / ALT_PX : 0;
      setRange([about + (values[0] - about) * factor + shift, about + (values[1] - about) * factor + shift]);
    };
    element.addEventListener("wheel", wheel, { passive: false });
    return () => element.removeEventListener("wheel", wheel);
  });
  return { values, fitAgain: () => setRange(null) };
}
