import { useRested } from "./useRested";

const RESTS_MS = 150;

/** Whether a value has been unchanged for a while: during changes, drawing is simpler. */
export function useResting(value: string | object): boolean {
  return value === useRested(value, RESTS_MS, { first: value });
}
