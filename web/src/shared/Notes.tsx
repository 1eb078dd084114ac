import { X } from "lucide-react";
import { createPortal } from "react-dom";
import { useStore } from "zustand";
import { dialogs } from "../stores/dialogs";
import { dismiss, type Note, notes } from "../stores/notes";

/** Messages at the foot of the page, over dialogs too: errors stay until they are closed. */
export function Notes() {
  const list = useStore(notes, (state) => state.list);
  const dialog = useStore(dialogs, ({ open }) => open.at(-1));
  const shown = <List list={list} />;
  return dialog ? createPortal(shown, dialog) : shown;
}

function List({ list }: { list: Note[] }) {
  return (
    <div
      className="pointer-events-none fixed inset-x-0 bottom-3 z-50 flex flex-col items-center gap-2"
      aria-live="polite"
    >
      {list.map((note) => (
        <div
          key={note.id}
          role={note.kind === "error" ? "alert" : "status"}
          className={`pointer-events-auto flex max-w-2xl items-center gap-3 rounded-md border px-3 py-2 text-sm shadow-lg ${note.kind === "error" ? "border-error bg-[#3a1d17] text-[#f4e2dc]" : "border-base-300 bg-base-200 text-base-content"}`}
        >
          <span>{note.text}</span>
          {note.action && (
            <button
              type="button"
              className="btn btn-xs btn-accent shrink-0"
              onClick={() => {
                note.action?.run();
                dismiss(note.id);
              }}
            >
              {note.action.title}
            </button>
          )}
          <button
            type="button"
            aria-label="Close message"
            className="btn btn-ghost btn-xs btn-square"
            onClick={() => dismiss(note.id)}
          >
            <X size={14} />
          </button>
        </div>
      ))}
    </div>
  );
}
