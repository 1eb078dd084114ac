/** A value for display: with its usual digits, and with more where these would be misleading. */
const MAX_DIGITS = 4;
const CLOSE = 0.02;

export function figures(value: number, digits: number): string {
  // Rounding error of a sum that should be zero.
  if (Math.abs(value) < 0.5 * 10 ** -MAX_DIGITS) return (0).toFixed(digits);
  let shown = value.toFixed(digits);
  for (let more = digits + 1; more <= MAX_DIGITS && Math.abs(Number(shown) - value) > CLOSE * Math.abs(value); more++)
    shown = value.toFixed(more);
  return shown;
}
