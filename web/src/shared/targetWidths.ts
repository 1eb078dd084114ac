/** Enough for a finger. */
const TARGET_PX = 24;

/** Width of the hit area of each of some positions, in order: comfortable size, limited by the neighbors. */
export function targetWidths(places: number[], least: number): number[] {
  return places.map((place, n) => {
    const before = place - (places[n - 1] ?? -Infinity);
    const after = (places[n + 1] ?? Infinity) - place;
    return Math.max(least, Math.min(TARGET_PX, before, after));
  });
}
