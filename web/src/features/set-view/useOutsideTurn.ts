import { useEffect, useRef } from "react";
import { previewState } from "../../stores/preview";
import { stage } from "../../stores/stage";

/** With slow rendering, updates of the outside view per second during playback or a camera drag. */
const EVERY_MS = 150;
/** While something else is dragged it comes this often, and as soon as the hand rests. */
const WAITS_MS = 600;

/** Whether the outside view is due: with slow rendering, the view through the lens has priority. `held`: the camera is dragged in it. A canvas of another size is empty: all of it is drawn. */
export function useOutsideTurn(canvas: HTMLCanvasElement, held: boolean, invalidate: () => void) {
  const drawnAt = useRef(0);
  const drawnOn = useRef("");
  const owed = useRef(0);
  useEffect(() => () => clearTimeout(owed.current), []);
  const due = (): boolean => {
    clearTimeout(owed.current);
    if (drawnOn.current !== sizeOf(canvas)) return true;
    const every = !held && previewState.getState().command ? WAITS_MS : EVERY_MS;
    if (!stage.getState().coarse || performance.now() - drawnAt.current > every) return true;
    owed.current = window.setTimeout(() => {
      drawnAt.current = 0;
      invalidate();
    }, EVERY_MS);
    return false;
  };
  const drawn = () => {
    drawnAt.current = performance.now();
    drawnOn.current = sizeOf(canvas);
  };
  return { due, drawn };
}

const sizeOf = ({ width, height }: HTMLCanvasElement) => `${width} ${height}`;
