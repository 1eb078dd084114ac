import { Command } from "cmdk";
import { useState } from "react";
import { Dialog } from "../../shared/Dialog";
import { view } from "../../stores/view";
import type { Action } from "./action";
import { ACTIONS } from "./actions";
import { search } from "./search";

const close = () => view.setState({ dialog: null });

function run(action: Action): void {
  close();
  action.run();
}

/** All commands, searchable, each with its key. */
export function CommandList() {
  const [typed, setTyped] = useState("");
  const [at, setAt] = useState(ACTIONS[0]?.id ?? "");
  const found = search(ACTIONS, typed);
  const type = (text: string) => {
    setTyped(text);
    setAt(search(ACTIONS, text)[0]?.id ?? "");
  };
  return (
    <Dialog title="Commands" onClose={close}>
      <Command label="Search commands" shouldFilter={false} value={at} onValueChange={setAt}>
        <Command.Input
          className="input input-sm mb-3 w-full"
          placeholder="Search commands"
          value={typed}
          onValueChange={type}
        />
        <Command.List className="max-h-96 overflow-y-auto">
          <Command.Empty className="px-2 py-1 text-sm">No matching commands.</Command.Empty>
          {found.map((action) => (
            <Command.Item
              key={action.id}
              value={action.id}
              disabled={action.available?.() === false}
              className="flex min-h-7 w-full cursor-pointer items-center justify-between rounded-sm px-2 py-1 text-sm aria-disabled:cursor-default aria-selected:bg-base-300 aria-disabled:opacity-40"
              onSelect={() => run(action)}
            >
              {action.title}
              <Keys keys={action.keys} />
            </Command.Item>
          ))}
        </Command.List>
      </Command>
    </Dialog>
  );
}

function Keys({ keys }: { keys: string[] }) {
  return (
    <span className="flex gap-1">
      {keys.map((key) => (
        <kbd key={key} className="num rounded-sm border border-base-300 px-1.5 text-xs">
          {key.replace("Arrow", "").replaceAll("+", " ")}
        </kbd>
      ))}
    </span>
  );
}
