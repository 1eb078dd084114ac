/** Geometry of the drawing of a cycle: percent of the cycle across, height up and down. */
export type Point = [number, number];

export const CYCLE_WIDTH = 340;
export const CYCLE_HEIGHT = 64;
const MARGIN = 8;
export const REACH = 1.25;
const LAST_PERCENT = 99.5;

export const toX = (percent: number): number => MARGIN + (percent / 100) * (CYCLE_WIDTH - 2 * MARGIN);
export const toY = (height: number): number => CYCLE_HEIGHT / 2 - (height / REACH) * (CYCLE_HEIGHT / 2 - MARGIN);

/** The point of the drawing under a place on the page. */
export function placeIn(svg: Element | null, x: number, y: number): Point {
  const box = svg?.getBoundingClientRect() ?? new DOMRect(0, 0, 1, 1);
  const across = ((x - box.left) / box.width) * CYCLE_WIDTH;
  const down = ((y - box.top) / box.height) * CYCLE_HEIGHT;
  const percent = ((across - MARGIN) / (CYCLE_WIDTH - 2 * MARGIN)) * 100;
  const height = ((CYCLE_HEIGHT / 2 - down) / (CYCLE_HEIGHT / 2 - MARGIN)) * REACH;
  return [
    Math.min(LAST_PERCENT, Math.max(0, percent)),
    Math.round(Math.min(REACH, Math.max(-REACH, height)) * 100) / 100,
  ];
}

/** From point to point and back to the first. */
export function cycleLine(points: Point[]): string {
  const [x = 0, y = 0] = points[0] ?? [];
  return [...points, [100 + x, y] as Point].map(([percent, height]) => `${toX(percent)},${toY(height)}`).join(" ");
}
