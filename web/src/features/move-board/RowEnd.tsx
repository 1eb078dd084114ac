import { Lock, LockOpen } from "lucide-react";
import { useStore } from "zustand";
import { snap } from "../../acts/placing";
import type { MoveField } from "../../api/types";
import { view } from "../../stores/view";

/** At the end of a number of the move: to zero, an angle to the nearest right one, and the lock that placing the camera respects. */
export function RowEnd({ field, title }: { field: MoveField; title: string }) {
  const locks = useStore(view, (state) => state.locks);
  const locked = locks.includes(field);
  const Icon = locked ? Lock : LockOpen;
  const snapButton = (text: string, hint: string, zero: boolean) => (
    <button
      type="button"
      className="num rounded-sm px-0.5 text-(--graphite) text-xs hover:bg-(--wash)"
      title={hint}
      aria-label={hint}
      onClick={() => snap([field], zero)}
    >
      {text}
    </button>
  );
  return (
    <>
      {field.endsWith("_deg") && snapButton("90", `Snap ${title} to the nearest 90°`, false)}
      {snapButton("0", `Set ${title} to 0`, true)}
      <button
        type="button"
        className={locked ? "text-primary" : "text-(--graphite)"}
        aria-pressed={locked}
        aria-label={`Lock ${title}`}
        title={locked ? `Unlock ${title}` : `Lock ${title}: locked against placing and dragging`}
        onClick={() => view.setState({ locks: locked ? locks.filter((each) => each !== field) : [...locks, field] })}
      >
        <Icon size={11} />
      </button>
    </>
  );
}
