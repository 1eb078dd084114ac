import { Download, TriangleAlert } from "lucide-react";
import type { ShotCard as Card } from "../../api/types";
import { RemoveShot } from "./RemoveShot";

/** A shot whose document cannot be read: what is wrong with it, and what can still be done. */
export function BrokenShotCard({ shot }: { shot: Card }) {
  return (
    <article
      aria-label={shot.slug}
      className="flex flex-col gap-1 rounded-md border border-error bg-base-200/50 p-3 text-sm"
    >
      <h3 className="flex items-center gap-1.5 font-semibold">
        <TriangleAlert size={15} className="shrink-0 text-error" /> <span className="truncate">{shot.slug}</span>
      </h3>
      <p className="line-clamp-3" title={shot.problem ?? ""}>
        Cannot be read: {shot.problem}
      </p>
      <span className="mt-auto flex justify-end gap-1">
        <a
          className="btn btn-xs"
          href={`/api/shots/${shot.id}/raw`}
          download
          title="The stored document, unchanged, for inspection or repair"
        >
          <Download size={13} /> Download the raw document
        </a>
        <RemoveShot shot={shot} />
      </span>
    </article>
  );
}
