import { useStore } from "zustand";
import type { Shot } from "../../api/types";
import { selectMount, view } from "../../stores/view";

/** In a rig of several mounts: which one the numbers below belong to, from the ground to the lens. */
export function MountBar({ document, mount }: { document: Shot; mount: string | null }) {
  // The rows say the same while they are there.
  const rows = useStore(view, (state) => state.rigOpen);
  if (document.mounts.length < 2 || !mount || rows) return null;
  return (
    <div className="cond flex items-center gap-1 text-xs">
      <span className="text-(--graphite)">rig</span>
      <fieldset className="flex min-w-0 flex-1 gap-1 overflow-x-auto" aria-label="Mounts from the ground to the lens">
        {document.mounts.map((each) => (
          <button
            key={each.id}
            type="button"
            aria-pressed={each.id === mount}
            title={`${each.name}: its own numbers, relative to its parent`}
            className={`max-w-40 shrink-0 truncate rounded-sm border border-base-300 px-2 py-0.5 ${each.id === mount ? "border-primary bg-(--wash) text-primary" : "hover:bg-base-200"}`}
            onClick={() => selectMount(each.id)}
          >
            {each.name}
          </button>
        ))}
      </fieldset>
    </div>
  );
}
