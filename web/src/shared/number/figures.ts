/** A value as it is shown: with its usual digits, and with more where these would say something else. */
const MOST_DIGITS = 4;
const CLOSE = 0.02;

export function figures(value: number, digits: number): string {
  let shown = value.toFixed(digits);
  for (let more = digits + 1; more <= MOST_DIGITS && Math.abs(Number(shown) - value) > CLOSE * Math.abs(value); more++)
    shown = value.toFixed(more);
  return shown;
}
