/** Actions on variants, for the menu, the dialog, the boards and the command list. */
import type { State } from "../api/types";
import { commit, showVariant } from "../stores/editing";
import { openShot } from "../stores/openShot";
import { selection } from "../stores/selection";

export type VariantEntry = State["document"]["variants"][number];

export function variantsNow(): VariantEntry[] {
  return openShot.getState().state?.document.variants ?? [];
}

/** A new variant as the present one, which is shown from then on. */
export function addVariant(): void {
  void commit({ type: "add_variant", note: "" });
}

/** Shows the variant at a place in their order, where there is one. */
export function showAt(index: number): void {
  const one = variantsNow()[index];
  if (one) void showVariant(one.id);
}

/** The one after the variant that is shown; after the last comes the first. None where there is no other. */
export function nextVariant(): VariantEntry | undefined {
  const all = variantsNow();
  const at = all.findIndex(({ id }) => id === openShot.getState().state?.variant);
  return all.length > 1 ? all[(at + 1) % all.length] : undefined;
}

export function showNext(): void {
  const next = nextVariant();
  if (next) void showVariant(next.id);
}

/** Copies what is selected, layers or a clip, into another variant. */
export function carryTo(to: string): void {
  const now = selection();
  if (now.kind === "clip") void commit({ type: "carry_to", to, clips: [now.id], layers: [] });
  if (now.kind === "layers") void commit({ type: "carry_to", to, clips: [], layers: now.ids });
}
