/** A circle about a place, as a part of an SVG path. */
export function dotPath(x: number, y: number, radius: number): string {
  const half = (way: number) => `a${radius} ${radius} 0 1 0 ${way * 2 * radius} 0`;
  return `M${(x - radius).toFixed(1)} ${y.toFixed(1)}${half(1)}${half(-1)}`;
}
