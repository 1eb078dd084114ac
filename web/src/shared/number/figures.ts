/** A value as it is shown: with its usual digits, and with more where these would say something else. */
const MAX_DIGITS = 4;
const CLOSE = 0.02;

export function figures(value: number, digits: number): string {
  // What is left of a sum that came to nothing.
  if (Math.abs(value) < 0.5 * 10 ** -MAX_DIGITS) return (0).toFixed(digits);
  let shown = value.toFixed(digits);
  for (let more = digits + 1; more <= MAX_DIGITS && Math.abs(Number(shown) - value) > CLOSE * Math.abs(value); more++)
    shown = value.toFixed(more);
  return shown;
}
