/** Enough for a finger. */
const TARGET_PX = 24;

/** How wide the target about each of some places may be, in order: as wide as a finger wants, where the neighbours leave the room. */
export function targetWidths(places: number[], least: number): number[] {
  return places.map((place, n) => {
    const before = place - (places[n - 1] ?? -Infinity);
    const after = (places[n + 1] ?? Infinity) - place;
    return Math.max(least, Math.min(TARGET_PX, before, after));
  });
}
