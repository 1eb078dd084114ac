import { Lock, LockOpen } from "lucide-react";
import { useStore } from "zustand";
import { view } from "../../stores/view";
import type { FIELDS } from "./commands";
import { snap } from "./doings";

/** At the end of a number of the move: to zero, and the lock that placing the camera respects. */
export function RowEnd({ field, title }: { field: (typeof FIELDS)[number]; title: string }) {
  const locks = useStore(view, (state) => state.locks);
  const locked = locks.includes(field);
  const Icon = locked ? Lock : LockOpen;
  return (
    <>
      <button
        type="button"
        className="num rounded-sm px-0.5 text-(--graphite) text-xs hover:bg-(--wash)"
        title={`Set ${title} to zero`}
        aria-label={`Set ${title} to zero`}
        onClick={() => snap([field], true)}
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
