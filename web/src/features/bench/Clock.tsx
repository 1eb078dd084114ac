import { useEffect, useRef } from "react";
import { useStore } from "zustand";
import { say } from "../../shared/say";
import { transport } from "../../stores/transport";
import { view } from "../../stores/view";
import { GoToFrame } from "./GoToFrame";

/** Frame and time, written as they go by; a click on the frame takes another one. */
export function Clock({ fps }: { fps: number }) {
  const frame = useRef<HTMLButtonElement>(null);
  const time = useRef<HTMLSpanElement>(null);
  const isEntering = useStore(view, (each) => each.goingTo);
  useEffect(() => {
    const show = () => {
      const state = transport.getState();
      if (frame.current) say(frame.current, String(state.frame).padStart(4, "0"));
      if (time.current) say(time.current, `${((state.frame - state.first) / state.fps).toFixed(2)} s`);
    };
    show();
    return transport.subscribe(show);
  }, [isEntering]);
  return (
    <span className="num ml-1 flex items-baseline gap-2 whitespace-nowrap text-sm">
      {isEntering ? (
        <GoToFrame />
      ) : (
        <button
          type="button"
          ref={frame}
          title="Go to a frame: 120, +12, 2.5 s, the name of a cue (Ctrl G)"
          className="cursor-text rounded-sm px-0.5 text-white hover:bg-base-300"
          data-testid="frame"
          onClick={() => view.setState({ goingTo: true })}
        />
      )}
      <span className="flex gap-1.5 text-xs">
        <span ref={time} className="inline-block w-12 text-right" />
        <span className="hidden min-[1150px]:inline">· {Number(fps.toFixed(3))} fps</span>
      </span>
    </span>
  );
}
