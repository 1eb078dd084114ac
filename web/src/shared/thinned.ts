/** Those with enough distance, from the left; `kept` ones are always included. Places rise. */
export function thinned<T>(all: T[], place: (each: T) => number, apart: number, kept: (each: T) => boolean): T[] {
  let last = Number.NEGATIVE_INFINITY;
  return all.filter((each) => {
    const at = place(each);
    const free = at - last >= apart;
    if (free) last = at;
    return free || kept(each);
  });
}
