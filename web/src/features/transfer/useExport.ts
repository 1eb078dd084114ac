import { useEffect, useState } from "react";
import { client, explain, take } from "../../api/client";
import type { Job } from "../../api/types";
import { download } from "../../shared/download";
import { note } from "../../stores/notes";

const POLL_MS = 150;

/** An export under way: started, watched, cancelled; its file is handed over when it is ready. */
export function useExport(slug: string, onDone: () => void) {
  const [job, setJob] = useState<Job | null>(null);
  const [problem, setProblem] = useState("");
  const id = job?.status === "working" ? job.id : null;
  useEffect(() => {
    if (!id) return;
    let watching = true;
    const watch = async () => {
      // One question after the other: two answers “done” would fetch the file twice.
      while (watching) {
        await new Promise((resolve) => setTimeout(resolve, POLL_MS));
        const now = await take<Job>(client.GET("/api/exports/{job}", { params: { path: { job: id } } }));
        if (!watching) return;
        setJob(now);
        if (now.status === "failed") setProblem(now.problem ?? "the export failed");
        if (now.status === "done") {
          download(`/api/exports/${now.id}/file`, now.filename);
          note("info", `${now.filename} is ready`);
          onDone();
        }
        if (now.status !== "working") return;
      }
    };
    watch().catch((error: unknown) => {
      setProblem(explain(error));
      setJob(null);
    });
    return () => {
      watching = false;
    };
  }, [id, onDone]);
  const start = (format: string, step: number) => {
    setProblem("");
    const body = { format, step };
    const asked = take<Job>(client.POST("/api/shots/{shot}/exports", { params: { path: { shot: slug } }, body }));
    asked.then(setJob).catch((error: unknown) => setProblem(explain(error)));
  };
  const cancel = () => {
    if (id) void take<Job>(client.DELETE("/api/exports/{job}", { params: { path: { job: id } } })).then(setJob);
  };
  return { progress: id ? (job?.progress ?? 0) : null, problem, start, cancel };
}
