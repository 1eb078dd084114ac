import { Eye, EyeOff } from "lucide-react";
import { useStore } from "zustand";
import { latchBare, seeBare, view } from "../../stores/view";

/** Shows the move without its shake while it is pressed; with Shift until it is pressed again. */
export function BareMoveButton() {
  const bypass = useStore(view, (each) => each.bypass);
  const bare = useStore(view, (each) => each.bare);
  const Icon = bypass ? EyeOff : Eye;
  return (
    <button
      type="button"
      className={`btn btn-sm btn-square ${bypass ? "btn-warning" : ""}`}
      aria-label="Bare move"
      aria-pressed={bypass}
      title={
        bare
          ? "Showing the move without motion layers; click to show all motion again"
          : "Hold to see the move without motion layers (B); Shift-click or Shift B to keep it"
      }
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        if (event.shiftKey || bare) latchBare();
        else seeBare(true);
      }}
      onPointerUp={() => seeBare(false)}
      onPointerCancel={() => seeBare(false)}
    >
      <Icon size={15} />
    </button>
  );
}
