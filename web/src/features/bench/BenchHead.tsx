import { Command as CommandIcon, Eye, EyeOff, FileDown, FileUp, Redo2, Undo2 } from "lucide-react";
import { Link } from "wouter";
import { useStore } from "zustand";
import type { State } from "../../api/types";
import { redo, session, undo } from "../../stores/session";
import { openImport, view } from "../../stores/view";
import { TransportBar } from "./TransportBar";

/** The slim head: where we are, steps back and forth, transport, in and out. */
export function BenchHead({ state }: { state: State }) {
  const bypass = useStore(view, (each) => each.bypass);
  const saving = useStore(session, (each) => each.saving > 0);
  return (
    <header className="grid h-11 shrink-0 grid-cols-[1fr_auto_1fr] items-center gap-4 px-3">
      <div className="flex min-w-0 items-center gap-2">
        <Link
          href="/"
          className="flex shrink-0 items-center gap-2 font-semibold text-white"
          aria-label="Zittern: all projects"
        >
          <img src="/assets/mark.svg" alt="" className="h-4" />
          <span className="hidden 2xl:inline">Zittern</span>
        </Link>
        <span className="flex min-w-0 items-baseline gap-1 text-sm" title={`${state.project} / ${state.document.name}`}>
          <span className="min-w-8 shrink-[9] truncate">{state.project}</span>
          <span>/</span>
          <button
            type="button"
            className="min-w-16 truncate font-medium text-white hover:underline"
            aria-label={`This shot: ${state.document.name}`}
            title={`${state.document.name}: name, frame rate, range, picture, sensor, set`}
            onClick={() => view.setState({ dialog: "shot" })}
          >
            {state.document.name}
          </button>
        </span>
        <StepButton label={state.undo_label} name="Undo" onClick={() => void undo()} />
        <StepButton label={state.redo_label} name="Redo" onClick={() => void redo()} />
        <span className="sr-only" role="status">
          {saving ? "saving" : "saved"}
        </span>
      </div>
      <TransportBar />
      <div className="flex items-center justify-end gap-2">
        <button
          type="button"
          className={`btn btn-sm ${bypass ? "btn-warning" : ""}`}
          aria-pressed={bypass}
          title="Hold to see the bare move (B)"
          onPointerDown={(event) => {
            event.currentTarget.setPointerCapture(event.pointerId);
            view.setState({ bypass: true });
          }}
          onPointerUp={() => view.setState({ bypass: false })}
          onPointerCancel={() => view.setState({ bypass: false })}
        >
          {bypass ? <EyeOff size={15} /> : <Eye size={15} />} Bare move
        </button>
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
          className="btn btn-sm"
          title="Bring in a camera path (I)"
          onClick={() => openImport(null)}
        >
          <FileUp size={15} /> Import
        </button>
        <button
          type="button"
          className="btn btn-sm btn-primary"
          title="Take the motion away as a file (E)"
          onClick={() => view.setState({ dialog: "export" })}
        >
          <FileDown size={15} /> Export
        </button>
      </div>
    </header>
  );
}

function StepButton({
  label,
  name,
  onClick,
}: {
  label: string | null | undefined;
  name: "Undo" | "Redo";
  onClick: () => void;
}) {
  const Icon = name === "Undo" ? Undo2 : Redo2;
  return (
    <button
      type="button"
      className={`btn btn-sm shrink gap-1 px-2 font-normal ${name === "Undo" && label ? "min-w-20" : "min-w-0"}`}
      disabled={!label}
      aria-label={label ? `${name}: ${label}` : `Nothing to ${name.toLowerCase()}`}
      title={label ? `${name}: ${label}` : `Nothing to ${name.toLowerCase()}`}
      onClick={onClick}
    >
      <Icon size={15} className="shrink-0" />
      {name === "Undo" && label && <span className="max-w-32 truncate text-xs">{label}</span>}
    </button>
  );
}
