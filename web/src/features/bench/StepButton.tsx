import { Redo2, Undo2 } from "lucide-react";

type StepButtonProps = { label: string | null | undefined; name: "Undo" | "Redo"; onClick: () => void };

/** A step back or forth, with what it would do: that gives way before anything beside it is cut. */
export function StepButton({ label, name, onClick }: StepButtonProps) {
  const Icon = name === "Undo" ? Undo2 : Redo2;
  const text = label ? `${name}: ${label}` : `Nothing to ${name.toLowerCase()}`;
  const told = name === "Undo" && label;
  return (
    <button
      type="button"
      className={`btn btn-sm min-w-8 gap-1 px-2 font-normal ${told ? "shrink-[99999] overflow-hidden" : "shrink-0"}`}
      disabled={!label}
      aria-label={text}
      title={text}
      onClick={onClick}
    >
      <Icon size={15} className="shrink-0" />
      {told && <span className="max-w-32 truncate text-xs">{label}</span>}
    </button>
  );
}
