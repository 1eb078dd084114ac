import { X } from "lucide-react";
import { type ReactNode, useEffect, useRef } from "react";
import { dialogs } from "../stores/dialogs";

/** A dialog over the page: Escape and the cross close it, focus stays inside. */
export function Dialog({ title, onClose, children }: { title: string; onClose: () => void; children: ReactNode }) {
  const ref = useRef<HTMLDialogElement>(null);
  useEffect(() => {
    const dialog = ref.current;
    if (!dialog || dialog.open) return;
    dialog.showModal();
    dialog.querySelector<HTMLElement>("input, select")?.focus();
  }, []);
  useEffect(() => {
    const dialog = ref.current;
    if (!dialog) return;
    dialogs.setState(({ open }) => ({ open: [...open, dialog] }));
    return () => dialogs.setState(({ open }) => ({ open: open.filter((each) => each !== dialog) }));
  }, []);
  return (
    <dialog
      ref={ref}
      className="modal"
      aria-label={title}
      onCancel={(event) => {
        event.preventDefault();
        onClose();
      }}
      onKeyDown={(event) => event.stopPropagation()}
    >
      <div className="modal-box max-w-xl border border-base-300 bg-base-200 p-5">
        <div className="mb-3 flex items-center justify-between">
          <h2 className="font-semibold text-base text-white">{title}</h2>
          <button type="button" className="btn btn-ghost btn-sm btn-square" aria-label="Close" onClick={onClose}>
            <X size={16} />
          </button>
        </div>
        {children}
      </div>
      <button type="button" className="modal-backdrop" tabIndex={-1} aria-hidden="true" onClick={onClose} />
    </dialog>
  );
}
