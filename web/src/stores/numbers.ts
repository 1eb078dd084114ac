/** Numbers whose samples are wanted with the motion: those that the sheet and the boards show. */
const wanted = new Map<string, number>();

/** Wants the samples of a number until `drop` is called; `isNew` tells whether nobody wanted them yet. */
export function want(at: string): { isNew: boolean; drop: () => void } {
  const count = wanted.get(at) ?? 0;
  wanted.set(at, count + 1);
  return {
    isNew: count === 0,
    drop: () => {
      const left = (wanted.get(at) ?? 1) - 1;
      if (left > 0) wanted.set(at, left);
      else wanted.delete(at);
    },
  };
}

export function wantedNumbers(): string[] {
  return [...wanted.keys()];
}
