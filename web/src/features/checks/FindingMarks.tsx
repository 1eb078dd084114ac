import { useStore } from "zustand";
import { timeScale } from "../../shared/timeScale";
import { useChecks } from "../../shared/useChecks";
import { view } from "../../stores/view";

const MAX_MARKS = 60;

/** On the ruler: where findings that count begin; a click opens the list. */
export function FindingMarks({ width }: { width: number }) {
  const window = useStore(view, (each) => each.window);
  const checks = useChecks();
  const x = timeScale(window, width);
  const marked = checks?.findings.filter(({ weight }) => weight).slice(0, MAX_MARKS) ?? [];
  return marked
    .filter(({ frames: [first] }) => x(first) >= 0 && x(first) <= width)
    .map(({ check, at, frames: [first], says }) => (
      <button
        key={`${check}/${at}/${first}`}
        type="button"
        tabIndex={-1}
        data-finding={check}
        aria-label={says}
        title={says}
        className="absolute bottom-0 z-[1] flex w-6 -translate-x-1/2 cursor-pointer items-end justify-center"
        style={{ left: x(first) }}
        onPointerDown={(event) => event.stopPropagation()}
        onClick={() => view.setState({ sheet: "checks" })}
      >
        <svg viewBox="0 0 12 12" aria-hidden="true" className="size-2.5 fill-base-content">
          <path d="M6 2L11 11H1Z" />
        </svg>
      </button>
    ));
}
