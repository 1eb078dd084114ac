import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { client, explain, take } from "../../api/client";
import { envelope } from "../../api/envelope";
import type { Job } from "../../api/types";
import { download } from "../../shared/download";
import { note } from "../../stores/notes";

const POLL_MS = 150;

const jobOf = (id: string) => ({ params: { path: { job: id } } });

/** Settings of an export: format, frames between samples or a tolerance for reduced keys, one node or all, range. */
export type ExportSettings = {
  format: string;
  step: number;
  reduce: string | null;
  one_camera: boolean;
  first_frame: number | null;
  last_frame: number | null;
  first_number: number | null;
};

type ExportRequest = ExportSettings & { variant: string };

/** Exports under way, one after another: started, watched, cancelled; each file is handed over when it is ready. */
export function useExport(slug: string, onDone: () => void) {
  const cache = useQueryClient();
  const started = useMutation({
    mutationFn: ({ variant, ...body }: ExportRequest) => {
      const params = { path: { shot: slug } };
      return take<Job>(client.POST("/api/shots/{shot}/exports", { params, body, headers: envelope(variant) }));
    },
  });
  // Next export in the queue.
  const [left, setLeft] = useState<ExportRequest[]>([]);
  const id = started.data?.id ?? "";
  const key = ["export", id];
  const { data, error } = useQuery({
    queryKey: key,
    queryFn: () => take<Job>(client.GET("/api/exports/{job}", jobOf(id))),
    enabled: id !== "",
    initialData: started.data,
    // One question after the other, until it is over; also while the page lies behind others.
    refetchInterval: ({ state }) => (state.data?.status === "working" && !state.error ? POLL_MS : false),
    refetchIntervalInBackground: true,
    retry: false,
  });
  const cancelled = useMutation({
    mutationFn: () => take<Job>(client.DELETE("/api/exports/{job}", jobOf(id))),
    onSuccess: (job) => cache.setQueryData(key, job),
  });
  const job = id ? data : undefined;
  const ready = job?.status === "done" ? job.id : null;
  const filename = job?.filename ?? "";
  const loss = job?.says;
  // Each is fetched once.
  useEffect(() => {
    if (!ready) return;
    download(`/api/exports/${ready}/file`, filename);
    note("info", loss ? `${filename} is ready: ${loss}` : `${filename} is ready`);
    const [next, ...rest] = left;
    setLeft(rest);
    if (next) started.mutate(next);
    else onDone();
  }, [ready, filename]);
  const fault = started.error ?? error ?? cancelled.error;
  const failed = job?.status === "failed" ? (job.problem ?? "the export failed") : "";
  return {
    progress: job?.status === "working" && !error ? job.progress : null,
    problem: fault ? explain(fault) : failed,
    start: (settings: ExportSettings, variants: string[]) => {
      const [first, ...rest] = variants.map((variant) => ({ ...settings, variant }));
      setLeft(rest);
      if (first) started.mutate(first);
    },
    cancel: () => {
      setLeft([]);
      cancelled.mutate();
    },
  };
}
