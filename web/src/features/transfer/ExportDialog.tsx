import { useState } from "react";
import { Complaint } from "../../parts/Complaint";
import { Dialog } from "../../shared/Dialog";
import { facts } from "../../stores/facts";
import { view } from "../../stores/view";
import { FormatChoice } from "./FormatChoice";
import { useExport } from "./useExport";

const FORMAT = "zittern.export.format";
const STEPS = [
  { step: 1, title: "every frame" },
  { step: 0.5, title: "every ½ frame" },
  { step: 0.25, title: "every ¼ frame" },
] as const;

const close = () => view.setState({ dialog: null });

/** Chooses a format, shows progress, can be cancelled, hands over the file. */
export function ExportDialog({ slug }: { slug: string }) {
  const [format, setFormat] = useState(localStorage.getItem(FORMAT) ?? "glb");
  const [step, setStep] = useState(1);
  const { progress, problem, start, cancel } = useExport(slug, close);
  const working = progress !== null;
  const begin = () => {
    localStorage.setItem(FORMAT, format);
    start(format, step);
  };
  return (
    <Dialog title="Export the motion" onClose={close}>
      <FormatChoice value={format} disabled={working} onChange={setFormat} />
      <label className="mb-4 flex items-center gap-3 text-sm">
        Samples
        <select
          className="select select-sm w-48"
          value={step}
          disabled={format === "shot" || working}
          onChange={(event) => setStep(Number(event.target.value))}
        >
          {STEPS.map((each) => (
            <option key={each.step} value={each.step}>
              {each.title}
            </option>
          ))}
        </select>
      </label>
      <Complaint text={problem} />
      {working && (
        <progress
          className="progress progress-info mb-3 w-full"
          value={progress}
          max={1}
          aria-label="Export progress"
        />
      )}
      <div className="flex justify-end gap-2">
        {working ? (
          <button type="button" className="btn btn-sm" onClick={cancel}>
            Cancel export
          </button>
        ) : (
          <button type="button" className="btn btn-sm btn-primary" onClick={begin}>
            Export {facts().formats.find((each) => each.name === format)?.ending}
          </button>
        )}
      </div>
    </Dialog>
  );
}
