import { useStore } from "zustand";
import { useLaneSize } from "../../shared/LaneRow";
import { timeScale } from "../../shared/timeScale";
import { view } from "../../stores/view";

type EditMarkProps = { from: number; to: number; look: "new" | "gone" | "changed" };

const LOOKS = {
  new: "bg-primary/15 border-primary border-x",
  gone: "bg-[repeating-linear-gradient(45deg,transparent_0_6px,var(--graphite)_6px_7px)] border-(--graphite) border-x opacity-60",
  changed: "bg-primary/10 border-primary border-x border-dashed",
};

/** Over the lanes: the frames that an edit of time puts in, takes out or changes. */
export function EditMark({ from, to, look }: EditMarkProps) {
  const { width } = useLaneSize();
  const window = useStore(view, (each) => each.window);
  const x = timeScale(window, width);
  const [left, right] = [Math.max(0, x(from)), Math.min(width, x(to))];
  if (right <= left) return null;
  return (
    <div
      aria-hidden="true"
      data-mark={look}
      className={`pointer-events-none absolute top-full z-[6] h-[60vh] ${LOOKS[look]}`}
      style={{ left, width: right - left }}
    />
  );
}
