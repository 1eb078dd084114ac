import { useStore } from "zustand";
import { view } from "../../stores/view";

/** Opens the presets, and puts them away. */
export function PresetsButton() {
  const open = useStore(view, (each) => each.sheet === "presets");
  return (
    <button
      type="button"
      aria-pressed={open}
      className={`cond flex shrink-0 items-center gap-0.5 rounded-sm px-1 text-xs ${open ? "bg-(--wash) text-primary" : "text-(--graphite) hover:bg-base-300/60"}`}
      title="Browse presets (R)"
      onClick={() => view.setState({ sheet: open ? null : "presets" })}
    >
      presets
    </button>
  );
}
