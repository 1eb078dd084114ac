import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, take } from "../../api/client";
import type { Revision, State } from "../../api/types";
import { Dialog } from "../../shared/Dialog";
import { complain } from "../../stores/notes";
import { goTo, lookAt } from "../../stores/session";
import { view } from "../../stores/view";

const timeOf = (text: string) => new Date(text).toLocaleString(undefined, { dateStyle: "short", timeStyle: "medium" });

/** Every revision, the newest first. Pointing at one shows its motion; going there loses nothing. */
export function HistoryDialog({ state }: { state: State }) {
  const queries = useQueryClient();
  const key = ["history", state.slug, state.revision];
  const params = { path: { shot: state.slug } };
  const rows = useQuery({
    queryKey: key,
    queryFn: () => take<Revision[]>(client.GET("/api/shots/{shot}/revisions", { params })),
  });
  const close = () => {
    lookAt(null);
    view.setState({ dialog: null });
  };
  const rename = async (revision: number, name: string) => {
    try {
      const path = { shot: state.slug, revision };
      await take<void>(
        client.PATCH("/api/shots/{shot}/revisions/{revision}", {
          params: { path },
          body: { name: name.trim() || null },
        }),
      );
      await queries.invalidateQueries({ queryKey: key });
    } catch (error) {
      complain(error);
    }
  };
  return (
    <Dialog title="History" onClose={close}>
      <p className="mb-2 text-sm">Look at a revision to see its motion; going back loses none of the later ones.</p>
      <ol className="max-h-96 overflow-y-auto">
        {rows.data?.map((row) => (
          <li
            key={row.revision}
            data-revision={row.revision}
            className={`flex items-center gap-2 rounded-sm px-2 py-1 text-sm hover:bg-base-300/60 ${row.current ? "bg-base-300" : ""} ${row.line ? "" : "opacity-75"}`}
          >
            <span className="min-w-0 flex-1">
              <span className="block truncate" title={row.label}>
                {row.label}
              </span>
              <span className="num block text-xs">
                {timeOf(row.created_at)}
                {row.line ? "" : " · another branch"}
              </span>
            </span>
            <NameOf key={row.name ?? ""} row={row} onName={(name) => void rename(row.revision, name)} />
            {row.current ? (
              <span className="cond w-28 text-center text-xs">you are here</span>
            ) : (
              <span className="flex w-28 justify-end gap-1">
                <button type="button" className="btn btn-xs" onClick={() => lookAt(row.revision)}>
                  Look
                </button>
                <button type="button" className="btn btn-xs" onClick={() => void goTo(row.revision)}>
                  Go here
                </button>
              </span>
            )}
          </li>
        ))}
      </ol>
    </Dialog>
  );
}

function NameOf({ row, onName }: { row: Revision; onName: (name: string) => void }) {
  const [text, setText] = useState(row.name ?? "");
  return (
    <input
      className="input input-xs w-40"
      placeholder="name it"
      aria-label={`Name of revision “${row.label}”`}
      maxLength={120}
      value={text}
      onChange={(event) => setText(event.target.value)}
      onBlur={() => text !== (row.name ?? "") && onName(text)}
      onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
    />
  );
}
