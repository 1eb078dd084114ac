/** All from one to another, in their order, whichever comes first. */
export function between<T>(all: readonly T[], one: T, other: T): T[] {
  const [from = 0, to = 0] = [all.indexOf(one), all.indexOf(other)].sort((a, b) => a - b);
  return all.slice(from, to + 1);
}

/** The selection after a press: the pressed one alone, or added or removed with modifier keys. */
export function pressed<T>(one: T, selected: T[], more: boolean): T[] {
  if (selected.includes(one)) return more ? selected.filter((each) => each !== one) : selected;
  return more ? [...selected, one] : [one];
}
