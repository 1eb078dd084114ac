import type { Blend } from "../api/types";

/** Number of a corner: the same on the pad, in its list and next to layers. */
export function CornerNumber({ blend, corner }: { blend: Blend; corner: string | null | undefined }) {
  const at = blend.corners.findIndex(({ id }) => id === corner);
  if (at < 0) return null;
  return (
    <span
      className="num shrink-0 rounded-full border border-(--graphite) px-1 text-(--graphite) text-[10px] leading-[13px]"
      title={`Corner ${at + 1}: ${blend.corners[at]?.name}`}
    >
      {at + 1}
    </span>
  );
}
