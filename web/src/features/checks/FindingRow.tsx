import { Check, Wrench } from "lucide-react";
import type { Finding } from "../../api/types";
import { commit } from "../../stores/editing";
import { goTo } from "./goTo";

type FindingRowProps = { finding: Finding; title: string; ignored: boolean };

function ignore({ check, at, amount }: Finding, ignored: boolean): void {
  void commit({ type: "ignore_finding", check, at: at ?? null, amount, ignored });
}

/** A finding: title, position, amount, explanation; its fixes, and whether it is ignored. */
export function FindingRow({ finding, title, ignored }: FindingRowProps) {
  const { says, frames, weight, fix } = finding;
  const [first, last] = frames.map(Math.round);
  const where = first === last ? `frame ${first}` : `frames ${first}–${last}`;
  return (
    <li className="flex items-center gap-2 border-base-300 border-b px-2 py-1 text-[13px]">
      <span
        role="img"
        aria-label={weight ? "problem" : "hint"}
        title={weight ? "Problem" : "Hint"}
        className={`size-2.5 shrink-0 rounded-full border border-(--graphite) ${weight ? "bg-base-content" : ""}`}
      />
      <span className="cond w-20 shrink-0 font-semibold">{title}</span>
      <button
        type="button"
        className="num shrink-0 rounded-sm px-1 text-primary text-xs hover:underline"
        title="Go there, and show what it is about"
        onClick={() => goTo(finding)}
      >
        {where}
      </button>
      <span className="min-w-0 flex-1 leading-tight">{says}</span>
      {fix && !ignored && (
        <button
          type="button"
          className="btn btn-xs max-w-56 shrink-0"
          title={`Fix: ${fix.says}`}
          onClick={() => void commit(fix.command)}
        >
          <Wrench size={12} className="shrink-0" /> <span className="truncate">{fix.says}</span>
        </button>
      )}
      <button
        type="button"
        className="btn btn-ghost btn-xs shrink-0"
        title={ignored ? "Report again" : "Ignored until 25 % worse"}
        onClick={() => ignore(finding, !ignored)}
      >
        <Check size={12} /> {ignored ? "Stop ignoring" : "Ignore"}
      </button>
    </li>
  );
}
