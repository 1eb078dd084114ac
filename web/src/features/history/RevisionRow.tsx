import { useState } from "react";
import { client, take } from "../../api/client";
import type { Revision } from "../../api/types";
import { goTo } from "../../stores/history";
import { complain } from "../../stores/notes";
import { lookAt } from "../../stores/preview";
import { flipSide } from "../../stores/sides";
import { view } from "../../stores/view";

const timeOf = (text: string) => new Date(text).toLocaleString(undefined, { dateStyle: "short", timeStyle: "medium" });

function showInSidePane({ revision, label, name }: Revision): void {
  flipSide({ key: `revision:${revision}`, title: `Revision: ${name ?? label}`, revision });
  view.setState({ dialog: null });
}

/** A revision: what was done, when, its name; looked at or returned to. */
export function RevisionRow({ slug, row, onNamed }: { slug: string; row: Revision; onNamed: () => void }) {
  const rename = async (name: string) => {
    try {
      const params = { path: { shot: slug, revision: row.revision } };
      const body = { name: name.trim() || null };
      await take<void>(client.PATCH("/api/shots/{shot}/revisions/{revision}", { params, body }));
      onNamed();
    } catch (error) {
      complain(error);
    }
  };
  return (
    <li
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
      <NameOf row={row} onName={(name) => void rename(name)} />
      {row.current ? (
        <span className="cond w-40 text-center text-xs">current</span>
      ) : (
        <span className="flex w-40 justify-end gap-1">
          <button type="button" className="btn btn-xs" onClick={() => lookAt(row.revision)}>
            Show
          </button>
          <button
            type="button"
            className="btn btn-xs"
            title="In a second Viewfinder, next to the current shot"
            onClick={() => showInSidePane(row)}
          >
            Side by side
          </button>
          <button type="button" className="btn btn-xs" onClick={() => void goTo(row.revision)}>
            Restore
          </button>
        </span>
      )}
    </li>
  );
}

function NameOf({ row, onName }: { row: Revision; onName: (name: string) => void }) {
  const [text, setText] = useState(row.name ?? "");
  return (
    <input
      className="input input-xs w-40"
      placeholder="add a name"
      aria-label={`Name of revision “${row.label}”`}
      maxLength={120}
      value={text}
      onChange={(event) => setText(event.target.value)}
      onBlur={() => text !== (row.name ?? "") && onName(text)}
      onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
    />
  );
}
