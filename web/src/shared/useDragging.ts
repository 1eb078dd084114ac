import { type FullGestureState, useDrag } from "@use-gesture/react";
import { useEffect, useRef } from "react";

/** A pointer that holds something. */
export type DragState<T> = {
  /** Payload of the drag: the argument of `bind` at the press, even if the element was drawn elsewhere since. */
  what: T;
  /** Pointer position on the page, and its displacement since the press. */
  x: number;
  y: number;
  dx: number;
  dy: number;
  shiftKey: boolean;
  altKey: boolean;
  /** Ctrl, or Command. */
  ctrlKey: boolean;
  /** The element that was pressed. */
  element: Element;
};

export type DragHandlers<T> = {
  /** Pressed. Returning false leaves the pointer alone. */
  press?: (held: DragState<T>) => boolean | undefined;
  /** Moved; only after a few pixels, so that a click is no drag. */
  move: (held: DragState<T>) => void;
  /** Let go after it had moved. */
  drop?: (held: DragState<T>) => void;
  /** Let go where it was pressed. */
  tap?: (held: DragState<T>) => void;
  /** Taken away, or given up with Escape. */
  cancel?: () => void;
};

export const DRAG_STARTS_PX = 3;

type State = Omit<FullGestureState<"drag">, "event"> & { event: Event };

function heldBy<T>(state: State): DragState<T> {
  const [x, y] = state.xy;
  return {
    what: state.args?.[0] as T,
    x,
    y,
    dx: x - state.initial[0],
    dy: y - state.initial[1],
    shiftKey: state.shiftKey,
    altKey: state.altKey,
    ctrlKey: state.ctrlKey || state.metaKey,
    element: state.currentTarget as Element,
  };
}

/** Dragging: what `bind` returns belongs on the elements that are dragged. What is held goes no further up the page. */
export function useDragging<T = void>(hands: DragHandlers<T>, enabled = true) {
  const handle = useHolding(hands);
  return useDrag<PointerEvent>((state) => handle(state as unknown as State), {
    enabled,
    pointer: { keys: false },
  }) as unknown as (what: T) => Record<string, (event: unknown) => void>;
}

/** Dragging on an element that is drawn elsewhere. What is held is kept from whatever else listens there. */
export function useDraggingOn(element: Element | null, hands: DragHandlers<void>, enabled = true): void {
  const handle = useHolding(hands);
  const target = useRef<Element | null>(null);
  target.current = element;
  useDrag((state) => handle(state as unknown as State), {
    target: target as React.RefObject<EventTarget>,
    enabled: enabled && element !== null,
    eventOptions: { capture: true },
    pointer: { keys: false },
  });
}

function useHolding<T>(hands: DragHandlers<T>): (state: State) => void {
  const holding = useRef<{ what: T; moved: boolean; giveUp: () => void } | null>(null);
  const latest = useRef(hands);
  latest.current = hands;
  const handle = (state: State): void => {
    const drag = heldBy<T>(state);
    if (state.first) {
      const leave = hands.press?.(drag) === false;
      holding.current = leave ? null : { what: drag.what, moved: false, giveUp: state.cancel };
      if (holding.current) state.event.stopPropagation();
    }
    const now = holding.current;
    if (!now) return;
    drag.what = now.what;
    now.moved ||= Math.hypot(drag.dx, drag.dy) >= DRAG_STARTS_PX;
    if (!state.last) {
      if (now.moved) hands.move(drag);
      return;
    }
    holding.current = null;
    if (state.canceled) hands.cancel?.();
    else if (now.moved) hands.drop?.(drag);
    else hands.tap?.(drag);
  };
  useEffect(() => {
    const onEscape = (event: KeyboardEvent) => {
      if (event.key !== "Escape" || !holding.current) return;
      event.stopPropagation();
      holding.current.giveUp();
    };
    window.addEventListener("keydown", onEscape, true);
    return () => {
      window.removeEventListener("keydown", onEscape, true);
      // The drag is canceled when its element is removed.
      if (holding.current) latest.current.cancel?.();
      holding.current = null;
    };
  }, []);
  return handle;
}
