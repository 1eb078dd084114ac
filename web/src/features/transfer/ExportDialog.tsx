import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { client, Problem, take } from "../../api/client";
import type { Job, Tables } from "../../api/types";
import { Dialog } from "../../shared/Dialog";
import { note } from "../../stores/notes";
import { view } from "../../stores/view";

const POLL_MS = 150;
const FORMAT = "zittern.export.format";
const STEPS = [
  { step: 1, title: "every frame" },
  { step: 0.5, title: "every half frame" },
  { step: 0.25, title: "every quarter frame" },
] as const;

const close = () => view.setState({ dialog: null });

function download(job: Job): void {
  const link = document.createElement("a");
  link.href = `/api/exports/${job.id}/file`;
  link.download = job.filename;
  link.click();
}

/** Chooses a format, shows progress, can be cancelled, hands over the file. */
export function ExportDialog({ slug }: { slug: string }) {
  const tables = useQuery({
    queryKey: ["tables"],
    queryFn: () => take<Tables>(client.GET("/api/tables")),
    staleTime: Infinity,
  });
  const [format, setFormat] = useState(localStorage.getItem(FORMAT) ?? "glb");
  const [step, setStep] = useState(1);
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
          download(now);
          note("info", `${now.filename} is ready`);
          close();
        }
        if (now.status !== "working") return;
      }
    };
    watch().catch((error: unknown) => {
      setProblem(error instanceof Problem ? error.message : String(error));
      setJob(null);
    });
    return () => {
      watching = false;
    };
  }, [id]);

  const start = async () => {
    setProblem("");
    localStorage.setItem(FORMAT, format);
    try {
      setJob(
        await take<Job>(
          client.POST("/api/shots/{shot}/exports", { params: { path: { shot: slug } }, body: { format, step } }),
        ),
      );
    } catch (error) {
      setProblem(error instanceof Problem ? error.message : String(error));
    }
  };
  const cancel = () => {
    if (id) void take<Job>(client.DELETE("/api/exports/{job}", { params: { path: { job: id } } })).then(setJob);
  };

  return (
    <Dialog title="Export the motion" onClose={close}>
      <fieldset className="mb-3 flex flex-col gap-1" disabled={id !== null}>
        <legend className="sr-only">Format</legend>
        {tables.data?.formats.map((each) => (
          <label
            key={each.name}
            className="flex cursor-pointer items-baseline gap-3 rounded-sm px-2 py-1 hover:bg-base-300/60"
          >
            <input
              type="radio"
              name="format"
              className="radio radio-xs translate-y-0.5"
              checked={format === each.name}
              onChange={() => setFormat(each.name)}
            />
            <span className="num w-24 text-sm">{each.ending}</span>
            <span className="text-sm">{each.title.replace(/^[^:]*: /, "")}</span>
          </label>
        ))}
      </fieldset>
      <label className="mb-4 flex items-center gap-3 text-sm">
        Samples
        <select
          className="select select-sm w-48"
          value={step}
          disabled={format === "shot" || id !== null}
          onChange={(event) => setStep(Number(event.target.value))}
        >
          {STEPS.map((each) => (
            <option key={each.step} value={each.step}>
              {each.title}
            </option>
          ))}
        </select>
      </label>
      {problem && (
        <p role="alert" className="mb-3 rounded-sm border border-error bg-[#3a1d17] px-3 py-2 text-[#f4e2dc] text-sm">
          {problem}
        </p>
      )}
      {id && (
        <progress
          className="progress progress-info mb-3 w-full"
          value={job?.progress ?? 0}
          max={1}
          aria-label="Export progress"
        />
      )}
      <div className="flex justify-end gap-2">
        {id ? (
          <button type="button" className="btn btn-sm" onClick={cancel}>
            Cancel export
          </button>
        ) : (
          <button type="button" className="btn btn-sm btn-primary" onClick={() => void start()}>
            Export {tables.data?.formats.find((each) => each.name === format)?.ending}
          </button>
        )}
      </div>
    </Dialog>
  );
}
