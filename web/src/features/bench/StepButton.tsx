import { Redo2, Undo2 } from "lucide-react";

type StepButtonProps = { label: string | null | undefined; name: "Undo" | "Redo"; onClick: () => void };

/** A label that has no room for a word or two goes down a line, where it is not seen. */
const LABEL_CLASSES = "shrink-[99999] flex-wrap content-start justify-start overflow-hidden";

/** Undo or redo with its label, which shrinks before adjacent controls do. */
export function StepButton({ label, name, onClick }: StepButtonProps) {
  const Icon = name === "Undo" ? Undo2 : Redo2;
  const text = label ? `${name}: ${label}` : `Nothing to ${name.toLowerCase()}`;
  const shownLabel = name === "Undo" && label;
  return (
    <button
      type="button"
      className={`btn btn-sm min-w-8 gap-1 px-2 font-normal ${shownLabel ? LABEL_CLASSES : "shrink-0"}`}
      disabled={!label}
      aria-label={text}
      title={text}
      onClick={onClick}
    >
      <span className="grid h-7 shrink-0 place-items-center">
        <Icon size={15} />
      </span>
      {shownLabel && <span className="h-7 max-w-32 flex-[1_0_3rem] truncate text-left text-xs leading-7">{label}</span>}
    </button>
  );
}
