import { useState } from "react";
import { client, take } from "../../api/client";
import type { Tidying } from "../../api/types";
import { complain, note } from "../../stores/notes";

const KEEP_COUNT = 100;
const megabytes = (bytes: number) => `${(bytes / 2 ** 20).toFixed(1)} MB`;

/** Thins the history: shows the amount first, then asks for confirmation. */
export function TidyBar({ slug, count, onTidied }: { slug: string; count: number; onTidied: () => void }) {
  const [planned, setPlanned] = useState<Tidying | null>(null);
  const path = { shot: slug };
  const plan = async () => {
    try {
      setPlanned(
        await take<Tidying>(client.GET("/api/shots/{shot}/tidy", { params: { path, query: { keep: KEEP_COUNT } } })),
      );
    } catch (error) {
      complain(error);
    }
  };
  const tidy = async () => {
    setPlanned(null);
    try {
      const result = await take<Tidying>(
        client.POST("/api/shots/{shot}/tidy", { params: { path }, body: { keep: KEEP_COUNT } }),
      );
      note("info", `${result.revisions} revisions removed, ${megabytes(result.bytes)} freed`);
      onTidied();
    } catch (error) {
      complain(error);
    }
  };
  return (
    <div className="mt-3 flex min-h-8 items-center justify-end gap-2 border-base-300 border-t pt-3 text-sm">
      {planned === null && (
        <>
          <span className="flex-1">{count} revisions</span>
          <button
            type="button"
            className="btn btn-sm"
            title={`Removes revisions without a name, older than the newest ${KEEP_COUNT}`}
            onClick={() => void plan()}
          >
            Clean up …
          </button>
        </>
      )}
      {planned?.revisions === 0 && (
        <>
          <span className="flex-1">Nothing to remove: the newest {KEEP_COUNT} and the named ones stay.</span>
          <button type="button" className="btn btn-sm" onClick={() => setPlanned(null)}>
            OK
          </button>
        </>
      )}
      {planned !== null && planned.revisions > 0 && (
        <>
          <span className="flex-1">
            This permanently deletes {planned.revisions} of {planned.of} revisions, {megabytes(planned.bytes)}. The
            newest {KEEP_COUNT} and the named ones stay.
          </span>
          <button type="button" className="btn btn-sm" onClick={() => setPlanned(null)}>
            Keep all
          </button>
          <button type="button" className="btn btn-sm btn-error" onClick={() => void tidy()}>
            Remove them
          </button>
        </>
      )}
    </div>
  );
}
