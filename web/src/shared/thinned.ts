/** Those that have room beside each other, from the left; `kept` ones are there in any case. Places rise. */
export function thinned<T>(all: T[], place: (each: T) => number, apart: number, kept: (each: T) => boolean): T[] {
  let last = Number.NEGATIVE_INFINITY;
  return all.filter((each) => {
    const at = place(each);
    const free = at - last >= apart;
    if (free) last = at;
    return free || kept(each);
  });
}
