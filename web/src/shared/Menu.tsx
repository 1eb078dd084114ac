import { DropdownMenu } from "radix-ui";
import { type ReactNode, useRef, useState } from "react";

export type MenuItem = { id: string; content: ReactNode; run: () => void; stays?: boolean };

type MenuProps = {
  /** Label and content of the button. */
  label: string;
  button: ReactNode;
  buttonClass: string;
  listClass: string;
  items: MenuItem[];
  /** After a choice with the pointer keys belong to the page again, Space among them, not to the button. */
  lets?: boolean;
};

const GAP_PX = 4;

/** A menu: a choice, Escape and a click elsewhere close it, arrow keys and first letters move in it. An item that `stays` leaves it open. */
export function Menu({ label, button, buttonClass, listClass, items, lets = false }: MenuProps) {
  const pointed = useRef(false);
  // It is drawn on the same paper as its button.
  const [paper, setPaper] = useState<HTMLElement | null>(null);
  const find = (element: HTMLElement | null) =>
    setPaper(element?.closest<HTMLElement>("dialog, [role=dialog], [data-theme]") ?? null);
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger ref={find} className={buttonClass} aria-label={label} title={label}>
        {button}
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal container={paper}>
        {/* Not quite opaque: where pictures are drawn in software, what an opaque part covers takes its surroundings along. */}
        <DropdownMenu.Content
          aria-label={label}
          loop
          align="end"
          sideOffset={GAP_PX}
          collisionPadding={GAP_PX}
          className={`z-40 opacity-[0.999] max-h-[min(18rem,var(--radix-dropdown-menu-content-available-height))] overflow-y-auto rounded-md border border-base-300 p-1 shadow-lg outline-none ${listClass}`}
          onPointerUp={() => {
            pointed.current = true;
          }}
          onKeyDown={(event) => {
            pointed.current = false;
            event.stopPropagation();
          }}
          onCloseAutoFocus={(event) => lets && pointed.current && event.preventDefault()}
        >
          {items.map(({ id, content, run, stays }) => (
            <DropdownMenu.Item
              key={id}
              className="block min-h-6 w-full cursor-pointer rounded-sm px-2 py-1 text-left outline-none data-highlighted:bg-base-300/60"
              onSelect={(event) => {
                if (stays) event.preventDefault();
                run();
              }}
            >
              {content}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
