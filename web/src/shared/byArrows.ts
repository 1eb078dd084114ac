const FAR = 10;
const STEPS: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
};

/** Moves what has the focus by arrow keys: steps to the right and up, ten with Shift. Whether the key was one of them. */
export function byArrows(event: React.KeyboardEvent, move: (across: number, up: number) => void): boolean {
  const step = STEPS[event.key];
  if (!step || event.ctrlKey || event.metaKey || event.altKey) return false;
  event.preventDefault();
  event.stopPropagation();
  const times = event.shiftKey ? FAR : 1;
  move(step[0] * times, step[1] * times);
  return true;
}

/** After a press with the pointer, arrow keys move the playhead; they move the focus only after keyboard focus. */
export function keepArrows(event: React.MouseEvent<HTMLElement | SVGElement>): void {
  if (event.detail > 0) event.currentTarget.blur();
}
