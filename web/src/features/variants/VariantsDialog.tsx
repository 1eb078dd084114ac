import { ArrowDown, ArrowUp, Trash2 } from "lucide-react";
import { addVariant, type VariantEntry } from "../../acts/variants";
import type { State } from "../../api/types";
import { Dialog } from "../../shared/Dialog";
import { NameInput } from "../../shared/NameInput";
import { commit, showVariant } from "../../stores/editing";
import { view } from "../../stores/view";

import { OtherShots } from "./OtherShots";

const close = () => view.setState({ dialog: null });
const MAX_NAME = 120;
const MAX_NOTE = 500;

/** All variants of the shot: shown, named, noted, ordered, deleted; which one is the main one. */
export function VariantsDialog({ state }: { state: State }) {
  const { variants, main } = state.document;
  return (
    <Dialog title="Variants" onClose={close}>
      <p className="mb-3 text-sm">
        Each has its own layers, springs, operator, hold and dial values. The move, rig, cues and set are shared, and
        edits of time reach all of them.
      </p>
      <ol aria-label="Variants" className="mb-3 flex flex-col gap-1">
        {variants.map((each, n) => (
          <Row
            key={each.id}
            variant={each}
            n={n}
            count={variants.length}
            shown={each.id === state.variant}
            main={each.id === main}
          />
        ))}
      </ol>
      <div className="flex items-center justify-between gap-3">
        <OtherShots state={state} />
        <button type="button" className="btn btn-sm btn-primary" onClick={addVariant}>
          New variant
        </button>
      </div>
    </Dialog>
  );
}

type RowProps = { variant: VariantEntry; n: number; count: number; shown: boolean; main: boolean };

function Row({ variant: { id, name, note }, n, count, shown, main }: RowProps) {
  return (
    <li
      data-variant={id}
      className={`grid grid-cols-[1.5rem_9rem_1fr_auto] items-center gap-2 rounded-sm px-2 py-1 ${shown ? "bg-base-300" : ""}`}
    >
      <input
        type="radio"
        name="variant"
        className="tick tick-round"
        aria-label={`Show ${name}`}
        title={`Show “${name}” (${n + 1})`}
        checked={shown}
        onChange={() => void showVariant(id)}
      />
      <NameInput
        name={name}
        label={`Name of variant ${name}`}
        most={MAX_NAME}
        className="w-full border-base-300"
        onName={(typed) => void commit({ type: "set_variant", variant: id, name: typed })}
      />
      <NameInput
        name={note ?? ""}
        label={`Note on ${name}`}
        placeholder="note"
        most={MAX_NOTE}
        mayBeEmpty
        className="w-full border-transparent font-normal! text-sm! hover:border-base-300"
        onName={(typed) => void commit({ type: "set_variant", variant: id, note: typed })}
      />
      <span className="flex items-center gap-1">
        <label className="flex cursor-pointer items-center gap-1 text-xs" title="Main variant">
          <input
            type="radio"
            name="main"
            className="tick tick-round"
            aria-label={`Make ${name} the main variant`}
            checked={main}
            onChange={() => void commit({ type: "set_main", variant: id })}
          />
          main
        </label>
        <Move id={id} name={name} to={n - 1} count={count} icon={<ArrowUp size={14} />} />
        <Move id={id} name={name} to={n + 1} count={count} icon={<ArrowDown size={14} />} />
        <button
          type="button"
          className="btn btn-ghost btn-xs btn-square"
          aria-label={`Delete ${name}`}
          title={count > 1 ? `Delete “${name}”` : "A shot needs one variant"}
          disabled={count === 1}
          onClick={() => void commit({ type: "remove_variant", variant: id })}
        >
          <Trash2 size={14} />
        </button>
      </span>
    </li>
  );
}

type MoveProps = { id: string; name: string; to: number; count: number; icon: React.ReactNode };

function Move({ id, name, to, count, icon }: MoveProps) {
  return (
    <button
      type="button"
      className="btn btn-ghost btn-xs btn-square"
      aria-label={`Move ${name} to place ${to + 1}`}
      title={`Move “${name}” to place ${to + 1}`}
      disabled={to < 0 || to >= count}
      onClick={() => void commit({ type: "move_variant", variant: id, index: to })}
    >
      {icon}
    </button>
  );
}
