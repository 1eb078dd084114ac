/** Headers of every request about a shot: its variant. */
export const VARIANT = "zittern-variant";

let shown: string | null = null;

/** From now on requests are about this variant, where they name no other. */
export function aboutVariant(id: string | null): void {
  shown = id;
}

/** The variant that requests are about, where they name no other. */
export function shownVariant(): string | null {
  return shown;
}

/** Headers of a request that is about the variant shown, or about another one. */
export function envelope(variant: string | null = shown): Record<string, string> {
  return variant === null ? {} : { [VARIANT]: variant };
}
