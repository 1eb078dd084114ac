/** Numbers whose samples are wanted with the motion: those that the sheet and the boards show. */
const watchers = new Map<string, number>();

/** Requests the samples of a number until `drop` is called; `isNew` returns whether it is the first request. */
export function want(at: string): { isNew: boolean; drop: () => void } {
  const count = watchers.get(at) ?? 0;
  watchers.set(at, count + 1);
  return {
    isNew: count === 0,
    drop: () => {
      const remaining = (watchers.get(at) ?? 1) - 1;
      if (remaining > 0) watchers.set(at, remaining);
      else watchers.delete(at);
    },
  };
}

export function wantedNumbers(): string[] {
  return [...watchers.keys()];
}
