import { useEffect, useState } from "react";
import type { State } from "../../api/types";
import { Complaint } from "../../parts/Complaint";
import { serverTables } from "../../stores/serverTables";
import { KeyFields, rememberedKeys, rememberKeys, settingsOf } from "./KeyFields";
import { OptionField } from "./OptionField";
import { RangeFields, rangeOf, WHOLE_SHOT } from "./RangeFields";
import { useExport } from "./useExport";
import { VariantChoice } from "./VariantChoice";

type FilePartProps = {
  state: State;
  format: string;
  onFormat: (format: string) => void;
  onBegun: () => void;
  onWriting: (writing: boolean) => void;
  onDone: () => void;
};

/** A file of the motion, or one for each of several variants. */
export function FilePart({ state, format, onFormat, onBegun, onWriting, onDone }: FilePartProps) {
  const { variants } = state.document;
  const [chosen, setChosen] = useState([state.variant]);
  const [keys, setKeys] = useState(rememberedKeys);
  const [range, setRange] = useState(WHOLE_SHOT);
  const { progress, problem, start, cancel } = useExport(state.slug, onDone);
  const working = progress !== null;
  const formats = serverTables().formats.filter((each) => each.writes);
  const kind = formats.find((each) => each.name === format);
  const sameEnding = formats.filter((each) => each.ending === kind?.ending);
  useEffect(() => onWriting(working), [working, onWriting]);
  const begin = () => {
    onBegun();
    const all = variants.map(({ id }) => id).filter((id) => chosen.includes(id));
    rememberKeys(keys);
    const settings = { format, ...settingsOf(keys, kind), ...rangeOf(range, kind) };
    start(settings, format === "shot" ? [state.variant] : all);
  };
  return (
    <>
      {format !== "shot" && (
        <fieldset className="mb-4 grid grid-cols-3 gap-x-4 gap-y-2 text-sm" disabled={working}>
          <legend className="sr-only">Keys</legend>
          <KeyFields keys={keys} format={kind} disabled={working} onChange={setKeys} />
          <RangeFields range={range} format={kind} disabled={working} onChange={setRange} />
          {sameEnding.length > 1 && (
            <OptionField
              title="Columns"
              value={format}
              options={sameEnding.map(({ name, carries }) => ({ value: name, title: carries }))}
              onChange={onFormat}
            />
          )}
        </fieldset>
      )}
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
            Export {kind?.ending}
          </button>
        )}
      </div>
    </>
  );
}
