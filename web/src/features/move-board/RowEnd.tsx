import { Lock, LockOpen } from "lucide-react";
import { useStore } from "zustand";
import { commit } from "../../stores/session";
import { view } from "../../stores/view";
import type { FIELDS } from "./commands";

/** At the end of a number of the move: to zero, and the lock that placing the camera respects. */
export function RowEnd({ field, title, frame }: { field: (typeof FIELDS)[number]; title: string; frame: number }) {
  const locks = useStore(view, (state) => state.locks);
  const key = useStore(view, (state) => state.autoKey);
  const locked = locks.includes(field);
  const Icon = locked ? Lock : LockOpen;
  return (
    <>
      <button
        type="button"
        className="num rounded-sm px-0.5 text-(--graphite) text-xs hover:bg-(--wash)"
        title={`Set ${title} to zero`}
        aria-label={`Set ${title} to zero`}
        onClick={() =>
          void commit({ type: "snap_angles", frame, key, mount: view.getState().mount, fields: [field], zero: true })
        }
      >
        0
      </button>
      <button
        type="button"
        className={locked ? "text-primary" : "text-(--graphite)"}
        aria-pressed={locked}
        aria-label={`Lock ${title}`}
        title={locked ? `Unlock ${title}` : `Lock ${title}: placing and dragging the camera leave it alone`}
        onClick={() => view.setState({ locks: locked ? locks.filter((each) => each !== field) : [...locks, field] })}
      >
        <Icon size={11} />
      </button>
    </>
  );
}
