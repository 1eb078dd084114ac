import { useState } from "react";
import { Dialog } from "../../shared/Dialog";
import { view } from "../../stores/view";
import { ACTIONS } from "./actions";
import { search } from "./search";

const close = () => view.setState({ dialog: null });

/** All commands, searchable, each with its key. */
export function CommandList() {
  const [typed, setTyped] = useState("");
  const [at, setAt] = useState(0);
  const found = search(ACTIONS, typed);
  const run = (index: number) => {
    const action = found[index];
    if (!action || action.available?.() === false) return;
    close();
    action.run();
  };
  return (
    <Dialog title="Commands" onClose={close}>
      <input
        className="input input-sm mb-3 w-full"
        placeholder="Search commands"
        aria-label="Search commands"
        autoFocus
        value={typed}
        onChange={(event) => {
          setTyped(event.target.value);
          setAt(0);
        }}
        onKeyDown={(event) => {
          if (event.key === "ArrowDown") setAt(Math.min(at + 1, found.length - 1));
          else if (event.key === "ArrowUp") setAt(Math.max(at - 1, 0));
          else if (event.key === "Enter") run(at);
          else return;
          event.preventDefault();
        }}
      />
      <ul className="max-h-96 overflow-y-auto">
        {found.map((action, index) => (
          <li key={action.id}>
            <button
              type="button"
              ref={index === at ? (element) => element?.scrollIntoView({ block: "nearest" }) : undefined}
              disabled={action.available?.() === false}
              className={`flex w-full items-center justify-between rounded-sm px-2 py-1 text-left text-sm disabled:opacity-40 ${index === at ? "bg-base-300" : "hover:bg-base-300/60"}`}
              onClick={() => run(index)}
            >
              {action.title}
              <span className="flex gap-1">
                {action.keys.map((key) => (
                  <kbd key={key} className="num rounded-sm border border-base-300 px-1.5 text-xs">
                    {key.replace("Arrow", "").replaceAll("+", " ")}
                  </kbd>
                ))}
              </span>
            </button>
          </li>
        ))}
        {found.length === 0 && <li className="px-2 py-1 text-sm">No command has these words.</li>}
      </ul>
    </Dialog>
  );
}
