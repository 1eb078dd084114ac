import { Plus } from "lucide-react";
import { view } from "../../stores/view";

/** Makes a dial. */
export function AddDialButton() {
  return (
    <button
      type="button"
      className="cond flex items-center gap-0.5 rounded-sm px-1 text-(--graphite) text-xs hover:bg-base-300/60"
      title="A control of your own for formulas (D)"
      onClick={() => view.setState({ dialog: "dial", dial: null })}
    >
      <Plus size={11} /> dial
    </button>
  );
}
