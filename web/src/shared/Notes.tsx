import { X } from "lucide-react";
import { Toast } from "radix-ui";
import { createPortal } from "react-dom";
import { useStore } from "zustand";
import { dialogs } from "../stores/dialogs";
import { dismiss, type Note, notes } from "../stores/notes";

const STAY_MS = 5000;
const OFFER_STAYS_MS = 15_000;

/** Messages at the bottom of the page, over dialogs too: errors stay until they are closed, others while the pointer is over them. */
export function Notes() {
  const list = useStore(notes, (state) => state.list);
  const dialog = useStore(dialogs, ({ open }) => open.at(-1));
  const shown = (
    <Toast.Provider label="Message" swipeDirection="down">
      {list.map((each) => (
        <One key={each.id} note={each} />
      ))}
      {/* No list: what is in it are live regions, and those are no items. */}
      <Toast.Viewport asChild>
        <div className="pointer-events-none fixed inset-x-0 bottom-3 z-50 flex flex-col items-center gap-2 outline-none" />
      </Toast.Viewport>
    </Toast.Provider>
  );
  return dialog ? createPortal(shown, dialog) : shown;
}

function One({ note: { id, kind, text, action } }: { note: Note }) {
  const wrong = kind === "error";
  return (
    <Toast.Root
      asChild
      type={wrong ? "foreground" : "background"}
      duration={wrong ? Number.POSITIVE_INFINITY : action ? OFFER_STAYS_MS : STAY_MS}
      onOpenChange={(open) => {
        if (!open) dismiss(id);
      }}
    >
      <div
        role={wrong ? "alert" : "status"}
        className={`pointer-events-auto flex max-w-2xl items-center gap-3 rounded-md border px-3 py-2 text-sm shadow-lg ${wrong ? "border-error bg-[#3a1d17] text-[#f4e2dc]" : "border-base-300 bg-base-200 text-base-content"}`}
      >
        {/* It is a live region itself; with the one of the library it would be announced twice. */}
        <Toast.Description data-radix-toast-announce-exclude="">{text}</Toast.Description>
        {action && (
          <Toast.Action altText={action.title} className="btn btn-xs btn-accent shrink-0" onClick={action.run}>
            {action.title}
          </Toast.Action>
        )}
        <Toast.Close aria-label="Close message" className="btn btn-ghost btn-xs btn-square">
          <X size={14} />
        </Toast.Close>
      </div>
    </Toast.Root>
  );
}
