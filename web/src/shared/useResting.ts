import { useRested } from "./useRested";

const RESTS_MS = 150;

/** Whether a value has been the same for a while: what passes is drawn in a lighter way. */
export function useResting(value: string | object): boolean {
  return value === useRested(value, RESTS_MS, { first: value });
}
