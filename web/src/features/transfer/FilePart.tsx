import { useEffect, useState } from "react";
import type { State } from "../../api/types";
import { Complaint } from "../../parts/Complaint";
import { serverTables } from "../../stores/serverTables";
import { useExport } from "./useExport";
import { VariantChoice } from "./VariantChoice";

const STEPS = [
  { step: 1, title: "every frame" },
  { step: 0.5, title: "every ½ frame" },
  { step: 0.25, title: "every ¼ frame" },
] as const;

type FilePartProps = {
  state: State;
  format: string;
  onBegun: () => void;
  onWriting: (writing: boolean) => void;
  onDone: () => void;
};

/** A file of the motion, or one for each of several variants. */
export function FilePart({ state, format, onBegun, onWriting, onDone }: FilePartProps) {
  const { variants } = state.document;
  const [chosen, setChosen] = useState([state.variant]);
  const [step, setStep] = useState(1);
  const { progress, problem, start, cancel } = useExport(state.slug, onDone);
  const working = progress !== null;
  useEffect(() => onWriting(working), [working, onWriting]);
  const begin = () => {
    onBegun();
    const all = variants.map(({ id }) => id).filter((id) => chosen.includes(id));
    start(format, step, format === "shot" ? [state.variant] : all);
  };
  return (
    <>
      <StepChoice step={step} disabled={format === "shot" || working} onChange={setStep} />
      {variants.length > 1 && format !== "shot" && (
        <VariantChoice variants={variants} chosen={chosen} disabled={working} onChange={setChosen} />
      )}
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
          <button type="button" className="btn btn-sm btn-primary" disabled={chosen.length === 0} onClick={begin}>
            Export {serverTables().formats.find((each) => each.name === format)?.ending}
          </button>
        )}
      </div>
    </>
  );
}

function StepChoice(props: { step: number; disabled: boolean; onChange: (step: number) => void }) {
  const { step, disabled, onChange } = props;
  return (
    <label className="mb-4 flex items-center gap-3 text-sm">
      Samples
      <select
        className="select select-sm w-48"
        value={step}
        disabled={disabled}
        onChange={(event) => onChange(Number(event.target.value))}
      >
        {STEPS.map((each) => (
          <option key={each.step} value={each.step}>
            {each.title}
          </option>
        ))}
      </select>
    </label>
  );
}
