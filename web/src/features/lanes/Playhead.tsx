import { useEffect, useRef } from "react";
import { useStore } from "zustand";
import { say } from "../../shared/say";
import { timeScale } from "../../shared/timeScale";
import { transport } from "../../stores/transport";
import { view } from "../../stores/view";

/** Nearer to the right edge the flag leans inwards, so that its number is not cut off. */
const EDGE_PX = 16;

/** The playhead at the present frame. It moves without re-rendering. */
export function Playhead({ width, left }: { width: number; left: number }) {
  const ref = useRef<HTMLDivElement>(null);
  const short = useStore(view, (state) => state.sheet !== null && state.sheet !== "curves");
  const window = useStore(view, (state) => state.window);
  useEffect(() => {
    const x = timeScale(window, width);
    const place = () => {
      const element = ref.current;
      if (!element) return;
      const { frame } = transport.getState();
      const at = x(frame);
      element.style.transform = `translateX(${left + at}px)`;
      element.style.visibility = at < 0 || at > width ? "hidden" : "visible";
      const flag = element.firstElementChild;
      if (flag instanceof HTMLElement) {
        say(flag, String(frame));
        flag.style.translate = at > width - EDGE_PX ? "-85%" : "-50%";
      }
    };
    place();
    return transport.subscribe(place);
  }, [window, width, left]);
  return (
    <div
      ref={ref}
      className="pointer-events-none absolute inset-y-0 left-0 z-10 w-0 will-change-transform"
      data-testid="playhead"
    >
      <span className="num absolute top-0 min-w-5 rounded-sm bg-signal px-1 text-center text-[11px] text-white" />
      <span className={`absolute top-[17px] -left-px w-[1.5px] bg-signal ${short ? "h-[66px]" : "bottom-0"}`} />
    </div>
  );
}
