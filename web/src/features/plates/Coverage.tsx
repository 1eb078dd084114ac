import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useStore } from "zustand";
import { client, take } from "../../api/client";
import type { Needs } from "../../api/types";
import { commit } from "../../stores/editing";
import { openShot } from "../../stores/openShot";
import { pause, seek } from "../../stores/transport";

/** Whether the frame is full; if not, each sufficient change. */
export function Coverage() {
  const slug = useStore(openShot, (each) => each.state?.slug);
  const revision = useStore(openShot, (each) => each.state?.revision);
  const variant = useStore(openShot, (each) => each.state?.variant);
  const params = { path: { shot: slug ?? "" } };
  const report = useQuery({
    queryKey: ["coverage", slug, revision, variant],
    queryFn: () => take<Needs>(client.POST("/api/shots/{shot}/coverage", { params })),
    enabled: slug !== undefined,
    placeholderData: keepPreviousData,
  }).data;
  if (!report) return <p className="text-xs">looking for edges …</p>;
  if (report.uncovered_px === 0)
    return (
      <p className="text-xs" data-testid="coverage">
        Full coverage.
      </p>
    );
  return (
    <section aria-label="Coverage" data-testid="coverage" className="flex flex-col gap-1 text-xs">
      <p>
        An edge shows, up to{" "}
        <button
          type="button"
          className="num rounded-sm px-1 underline hover:bg-(--wash)"
          onClick={() => {
            pause();
            seek(Math.round(report.at_frame));
          }}
        >
          {report.uncovered_px.toFixed(1)} px at frame {Math.round(report.at_frame)}
        </button>
        . Any one of these fixes it:
      </p>
      <div className="flex flex-wrap gap-1">
        {report.needs.map(({ kind, says, command }) => (
          <button key={kind} type="button" className="btn btn-xs" onClick={() => void commit(command)}>
            {says}
          </button>
        ))}
        {report.needs.length === 0 && <span>no single repair is enough; move or enlarge the plates</span>}
      </div>
    </section>
  );
}
