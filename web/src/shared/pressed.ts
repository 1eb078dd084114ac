/** What is selected after one was pressed: it alone, or it more or less where keys say so. */
export function pressed<T>(one: T, selected: T[], more: boolean): T[] {
  if (selected.includes(one)) return more ? selected.filter((each) => each !== one) : selected;
  return more ? [...selected, one] : [one];
}
