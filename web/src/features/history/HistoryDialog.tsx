import { useInfiniteQuery } from "@tanstack/react-query";
import { useState } from "react";
import { client, take } from "../../api/client";
import type { History, State } from "../../api/types";
import { Dialog } from "../../shared/Dialog";
import { lookAt } from "../../stores/preview";
import { view } from "../../stores/view";
import { RevisionRow } from "./RevisionRow";
import { TidyBar } from "./TidyBar";

/** Every revision, the newest first, page by page. Pointing at one shows its motion; going there loses nothing. */
export function HistoryDialog({ state }: { state: State }) {
  const [named, setNamed] = useState(false);
  const path = { shot: state.slug };
  const pages = useInfiniteQuery({
    meta: { told: true },
    queryKey: ["history", state.slug, state.revision, named],
    queryFn: ({ pageParam: before }) =>
      take<History>(client.GET("/api/shots/{shot}/revisions", { params: { path, query: { before, named } } })),
    initialPageParam: null as number | null,
    getNextPageParam: (page) => page.older,
  });
  const rows = pages.data?.pages.flatMap((page) => page.rows) ?? [];
  const close = () => {
    lookAt(null);
    view.setState({ dialog: null });
  };
  return (
    <Dialog title="History" onClose={close}>
      <p className="mb-2 flex items-center gap-3 text-sm">
        <span className="flex-1">Show a revision to see its motion; later revisions are kept.</span>
        <label className="flex cursor-pointer items-center gap-1.5 whitespace-nowrap">
          <input
            type="checkbox"
            className="tick"
            checked={named}
            onChange={(event) => setNamed(event.target.checked)}
          />
          Named only
        </label>
      </p>
      <ol className="max-h-96 overflow-y-auto" aria-label="Revisions">
        {rows.map((row) => (
          <RevisionRow
            key={`${row.revision} ${row.name}`}
            slug={state.slug}
            row={row}
            onNamed={() => void pages.refetch()}
          />
        ))}
        {pages.isSuccess && rows.length === 0 && <li className="px-2 py-3 text-sm">No named revisions yet.</li>}
        {pages.hasNextPage && (
          <li className="py-2 text-center">
            <button
              type="button"
              className="btn btn-xs"
              disabled={pages.isFetchingNextPage}
              onClick={() => void pages.fetchNextPage()}
            >
              Show older
            </button>
          </li>
        )}
      </ol>
      {pages.error && (
        <p role="alert" className="mt-2 text-error text-sm">
          {pages.error.message}
        </p>
      )}
      <TidyBar slug={state.slug} count={pages.data?.pages[0]?.count ?? 0} onTidied={() => void pages.refetch()} />
    </Dialog>
  );
}
