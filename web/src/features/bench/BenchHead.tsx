import { Command as CommandIcon, FileDown, FileUp } from "lucide-react";
import { Link } from "wouter";
import { useStore } from "zustand";
import type { State } from "../../api/types";
import { editing } from "../../stores/editing";
import { redo, undo } from "../../stores/history";
import { openImport, view } from "../../stores/view";
import { CheckButton } from "../checks";
import { FilmingChip } from "../transfer";
import { VariantMenu } from "../variants";
import { BareMoveButton } from "./BareMoveButton";
import { StepButton } from "./StepButton";
import { TransportBar } from "./TransportBar";

/** The slim head: where we are, steps back and forth, transport, in and out. */
export function BenchHead({ state }: { state: State }) {
  const saving = useStore(editing, (each) => each.saving > 0);
  return (
    <header className="grid h-11 shrink-0 grid-cols-[1fr_auto_1fr] items-center gap-4 px-3 min-[1200px]:grid-cols-[minmax(27rem,1fr)_auto_1fr]">
      <div className="flex min-w-0 items-center gap-2">
        <Place state={state} />
        <VariantMenu state={state} />
        <StepButton label={state.undo_label} name="Undo" onClick={() => void undo()} />
        <StepButton label={state.redo_label} name="Redo" onClick={() => void redo()} />
        <span className="sr-only" role="status">
          {saving ? "saving" : "saved"}
        </span>
      </div>
      <TransportBar />
      <div className="flex items-center justify-end gap-2">
        <FilmingChip />
        <CheckButton />
        <BareMoveButton />
        <button
          type="button"
          className="btn btn-sm btn-square"
          title="All commands (Ctrl K)"
          aria-label="All commands"
          onClick={() => view.setState({ dialog: "commands" })}
        >
          <CommandIcon size={15} />
        </button>
        <button
          type="button"
          className="btn btn-sm btn-square"
          title="Import a camera path (I)"
          aria-label="Import"
          onClick={() => openImport(null)}
        >
          <FileUp size={15} />
        </button>
        <button
          type="button"
          className="btn btn-sm btn-primary"
          title="Export the motion to a file (E)"
          onClick={() => view.setState({ dialog: "export" })}
        >
          <FileDown size={15} /> Export
        </button>
      </div>
    </header>
  );
}

/** Project and shot; the shot's name opens its settings. */
function Place({ state }: { state: State }) {
  const { name } = state.document;
  return (
    <>
      <Link
        href="/"
        className="flex shrink-0 items-center gap-2 font-semibold text-white"
        aria-label="Zittern: all projects"
      >
        <img src="/assets/mark.svg" alt="" className="h-4" />
        <span className="hidden 2xl:inline">Zittern</span>
      </Link>
      <span className="flex min-w-0 items-baseline gap-1 text-sm" title={`${state.project} / ${name}`}>
        <span className="min-w-8 shrink-[9] truncate">{state.project}</span>
        <span>/</span>
        <button
          type="button"
          className="min-w-16 truncate font-medium text-white hover:underline"
          aria-label={`Shot settings: ${name}`}
          title={`${name}: name, frame rate, range, resolution, sensor, set`}
          onClick={() => view.setState({ dialog: "shot" })}
        >
          {name}
        </button>
      </span>
    </>
  );
}
