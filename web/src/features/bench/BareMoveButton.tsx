import { Eye, EyeOff } from "lucide-react";
import { useStore } from "zustand";
import { view } from "../../stores/view";

const show = (bypass: boolean) => () => view.setState({ bypass });

/** Shows the move without its shake for as long as it is held. */
export function BareMoveButton() {
  const bypass = useStore(view, (each) => each.bypass);
  const Icon = bypass ? EyeOff : Eye;
  return (
    <button
      type="button"
      className={`btn btn-sm ${bypass ? "btn-warning" : ""}`}
      aria-pressed={bypass}
      title="Hold to see the bare move (B)"
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        show(true)();
      }}
      onPointerUp={show(false)}
      onPointerCancel={show(false)}
    >
      <Icon size={15} /> Bare move
    </button>
  );
}
