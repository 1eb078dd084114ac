import { ListChecks } from "lucide-react";
import { useStore } from "zustand";
import { useChecks } from "../../shared/useChecks";
import { view } from "../../stores/view";

const counted = (count: number, noun: string) => `${count} ${noun}${count === 1 ? "" : "s"}`;

/** In the head: how many findings count; opens the list. */
export function CheckButton() {
  const open = useStore(view, (each) => each.sheet === "checks");
  const checks = useChecks();
  const weighty = checks?.findings.filter(({ weight }) => weight).length ?? 0;
  const hints = (checks?.findings.length ?? 0) - weighty;
  const summary = checks ? `${counted(weighty, "problem")}, ${counted(hints, "hint")}` : "Checking …";
  return (
    <button
      type="button"
      aria-pressed={open}
      aria-label={`Checks: ${summary}`}
      title={`Checks: ${summary} (Z)`}
      className={`btn btn-sm gap-1 px-2 font-normal ${weighty ? "btn-warning" : ""}`}
      onClick={() => view.setState({ sheet: open ? null : "checks" })}
    >
      <ListChecks size={15} /> <span className="num text-xs">{checks ? weighty : "–"}</span>
    </button>
  );
}
