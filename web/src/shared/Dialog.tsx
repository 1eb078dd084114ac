import { X } from "lucide-react";
import { Dialog as Radix } from "radix-ui";
import { type ReactNode, useEffect, useState } from "react";
import { dialogs } from "../stores/dialogs";

/** A dialog over the page: Escape, the cross and a click outside close it, focus stays inside and is restored afterwards. */
export function Dialog({ title, onClose, children }: { title: string; onClose: () => void; children: ReactNode }) {
  const [element, setElement] = useState<HTMLElement | null>(null);
  useEffect(() => {
    if (!element) return;
    dialogs.setState(({ open }) => ({ open: [...open, element] }));
    return () => dialogs.setState(({ open }) => ({ open: open.filter((each) => each !== element) }));
  }, [element]);
  return (
    <Radix.Root open onOpenChange={(open) => !open && onClose()}>
      <Radix.Portal>
        <Radix.Overlay className="fixed inset-0 z-40 bg-black/40" />
        <Radix.Content
          ref={setElement}
          aria-describedby={undefined}
          className="fixed inset-0 z-50 m-auto h-fit max-h-[92vh] w-[calc(100%-2rem)] max-w-xl overflow-y-auto rounded-md border border-base-300 bg-base-200 p-5 shadow-2xl outline-none"
          onKeyDown={(event) => event.stopPropagation()}
          onOpenAutoFocus={(event) => {
            const first = (event.currentTarget as HTMLElement).querySelector<HTMLElement>("input, select");
            if (!first) return;
            event.preventDefault();
            first.focus();
          }}
        >
          <div className="mb-3 flex items-center justify-between">
            <Radix.Title className="font-semibold text-base text-white">{title}</Radix.Title>
            <Radix.Close className="btn btn-ghost btn-sm btn-square" aria-label="Close">
              <X size={16} />
            </Radix.Close>
          </div>
          {children}
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}
