import { useStore } from "zustand";
import { beginPainting, painted, painting, paintOver } from "../stores/painting";

/** A switch that is flipped by a click, and together with others by going over them with the pointer held. */
export function usePainting(at: string, on: boolean, flip: (event: React.SyntheticEvent) => void) {
  const shown = useStore(painting, painted(at, on));
  return {
    shown,
    bind: {
      onPointerDown: (event: React.PointerEvent) => {
        if (event.button !== 0 || event.altKey) return;
        // The pointer is not kept by what was pressed: the others have to feel it.
        event.currentTarget.releasePointerCapture(event.pointerId);
        beginPainting(at, !shown, () => flip(event));
      },
      onPointerEnter: () => paintOver(at),
      // The pointer is handled elsewhere; this is for the keyboard, and clicks with Alt.
      onClick: (event: React.MouseEvent) => {
        if (event.detail === 0 || event.altKey) flip(event);
        else event.preventDefault();
      },
    },
  };
}
