import type { MountKind } from "../api/types";

/** Icon of a kind of mount, in a square of 14. */
const SHAPES: Record<MountKind, string> = {
  free: "M4 4h6v6h-6z",
  ground: "M1.5 11.5h11 M3.5 11.5l2-6h3l2 6",
  arm: "M1.5 9.5h2v2.5h-2z M3.5 10.5l9-7",
  head: "M7 2.5a4.5 4.5 0 1 0 .01 0 M7 7h5.5",
  hands: "M2 12c0-4 1-7 3.5-8 M12 12c0-4-1-7-3.5-8 M5 8h4",
  lens: "M7 2a5 5 0 1 0 .01 0 M7 5a2 2 0 1 0 .01 0",
};

/** The shape of a mount, in its row. */
export function MountGlyph({ kind }: { kind: MountKind }) {
  return (
    <svg width="14" height="14" viewBox="0 0 14 14" className="shrink-0" aria-hidden="true">
      <path d={SHAPES[kind]} fill="none" stroke="currentColor" strokeWidth="1.3" strokeLinejoin="round" />
    </svg>
  );
}
