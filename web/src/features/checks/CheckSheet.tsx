import { useStore } from "zustand";
import type { Finding } from "../../api/types";
import { useLaneSize } from "../../shared/LaneRow";
import { SheetTitle } from "../../shared/SheetTitle";
import { useChecks } from "../../shared/useChecks";
import { usePending } from "../../shared/usePending";
import { commit } from "../../stores/editing";
import { openShot } from "../../stores/openShot";
import { serverTables } from "../../stores/serverTables";
import { FindingRow } from "./FindingRow";

/** Findings of the shot, over the lanes: each with its position and its fixes. */
export function CheckSheet() {
  const { headPx } = useLaneSize();
  const loops = usePending(
    "shot.loops",
    useStore(openShot, (each) => each.state?.document.loops === true),
  );
  const checks = useChecks();
  const weighty = checks?.findings.filter(({ weight }) => weight).length ?? 0;
  return (
    <section className="flex min-h-0 flex-1 border-base-300 border-t" aria-label="Checks">
      <div
        className="flex shrink-0 flex-col gap-2 border-base-300 border-r px-3 py-2 text-xs"
        style={{ width: headPx }}
      >
        <SheetTitle title={checks ? `Checks · ${weighty}` : "Checks …"} />
        <label className="flex items-center gap-2" title="Checks the loop point">
          <input
            type="checkbox"
            className="checkbox checkbox-xs"
            checked={loops}
            onChange={() => void commit({ type: "set_values", values: [{ at: "shot.loops", value: !loops }] })}
          />
          this shot loops
        </label>
        {checks?.thinned && <p className="text-(--graphite)">A long shot: about 8,000 frames sampled.</p>}
      </div>
      <div className="min-w-0 flex-1 overflow-y-auto">
        {checks && checks.findings.length === 0 && (
          <p className="p-4 text-(--graphite) text-sm">
            Nothing found:{" "}
            {serverTables()
              .checks.map(({ title }) => title)
              .join(", ")}
            .
          </p>
        )}
        <List findings={checks?.findings ?? []} ignored={false} />
        {checks && checks.ignored.length > 0 && (
          <>
            <h3 className="cond px-2 pt-3 pb-1 text-(--graphite) text-xs">Ignore</h3>
            <List findings={checks.ignored} ignored />
          </>
        )}
      </div>
    </section>
  );
}

function List({ findings, ignored }: { findings: Finding[]; ignored: boolean }) {
  const titles = new Map(serverTables().checks.map(({ name, title }) => [name, title]));
  return (
    <ul>
      {findings.map((each) => (
        <FindingRow
          key={`${each.check}/${each.at}/${each.frames[0]}`}
          finding={each}
          title={titles.get(each.check) ?? each.check}
          ignored={ignored}
        />
      ))}
    </ul>
  );
}
