import { type ReactNode, useId, useRef } from "react";

export type MenuItem = { id: string; content: ReactNode; run: () => void; stays?: boolean };

type MenuProps = {
  /** What the button is called, and what it shows. */
  label: string;
  button: ReactNode;
  buttonClass: string;
  listClass: string;
  items: MenuItem[];
};

const STEPS: Record<string, (at: number, count: number) => number> = {
  ArrowDown: (at, count) => (at + 1) % count,
  ArrowUp: (at, count) => (at - 1 + count) % count,
  Home: () => 0,
  End: (_, count) => count - 1,
};

/** A menu: a choice, Escape and a click elsewhere close it, arrow keys move in it. An item that `stays` leaves it open. */
export function Menu({ label, button, buttonClass, listClass, items }: MenuProps) {
  const id = useId();
  const anchor = `--menu-${id.replace(/\W/g, "")}`;
  const list = useRef<HTMLDivElement>(null);
  const options = () => [...(list.current?.querySelectorAll<HTMLElement>("[role=menuitem]") ?? [])];
  const onKeyDown = (event: React.KeyboardEvent) => {
    event.stopPropagation();
    const step = STEPS[event.key];
    if (!step) return;
    event.preventDefault();
    const all = options();
    all[step(all.indexOf(document.activeElement as HTMLElement), all.length)]?.focus();
  };
  return (
    <>
      <button
        type="button"
        className={buttonClass}
        aria-label={label}
        aria-haspopup="menu"
        popoverTarget={id}
        style={{ anchorName: anchor } as React.CSSProperties}
      >
        {button}
      </button>
      <div
        ref={list}
        id={id}
        popover="auto"
        role="menu"
        tabIndex={-1}
        aria-label="Choices"
        className={`dropdown dropdown-end overflow-y-auto ${listClass}`}
        style={{ positionAnchor: anchor } as React.CSSProperties}
        onKeyDown={onKeyDown}
        onToggle={(event) => event.newState === "open" && options()[0]?.focus()}
      >
        {items.map(({ id: key, content, run, stays }) => (
          <button
            key={key}
            type="button"
            role="menuitem"
            tabIndex={-1}
            // Where its first child has the focus, a dropdown makes it deaf to the pointer; an item has to hear it.
            className="pointer-events-auto! block w-full rounded-sm px-2 py-1 text-left hover:bg-base-300/60 focus:bg-base-300/60"
            onClick={() => {
              if (!stays) list.current?.hidePopover();
              run();
            }}
          >
            {content}
          </button>
        ))}
      </div>
    </>
  );
}
