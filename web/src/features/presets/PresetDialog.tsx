import { useState } from "react";
import { useStore } from "zustand";
import { explain } from "../../api/client";
import type { PresetEntry, Shot } from "../../api/types";
import { Complaint } from "../../parts/Complaint";
import { TextField } from "../../parts/TextField";
import { Dialog } from "../../shared/Dialog";
import { typedNumber } from "../../shared/number";
import { note } from "../../stores/notes";
import { openShot } from "../../stores/openShot";
import { changePreset, presets, savePreset } from "../../stores/presets";
import { type PresetForm, view } from "../../stores/view";

const close = () => view.setState({ dialog: null, presetForm: null });

type Texts = { name: string; line: string; tags: string; length: string; keepSeeds: boolean; rig: boolean };

function textsFor(form: PresetForm, entry: PresetEntry | undefined, shot: Shot): Texts {
  const preset = entry?.preset;
  if (preset)
    return {
      name: preset.name,
      line: preset.line,
      tags: preset.tags.join(", "),
      length: preset.length_s === null ? "" : String(preset.length_s),
      keepSeeds: preset.keep_seeds,
      rig: false,
    };
  const clips = shot.lanes.flatMap(({ clips: each }) => each);
  const layers = clips.flatMap(({ layers: each }) => each);
  const named = "save" in form && form.save === "clip" ? clips.find(({ id }) => id === form.clip) : null;
  const first = "save" in form && form.save === "layers" ? layers.find(({ id }) => id === form.layers[0]) : null;
  return { name: named?.name ?? first?.name ?? "", line: "", tags: "", length: "", keepSeeds: false, rig: false };
}

/** Saves it; errors are shown in the dialog, which then stays open. */
async function keep(form: PresetForm, entry: PresetEntry | undefined, texts: Texts): Promise<void> {
  const about = {
    name: texts.name.trim(),
    line: texts.line,
    tags: texts.tags.split(",").flatMap((tag) => tag.trim() || []),
    keep_seeds: texts.keepSeeds,
  };
  if ("change" in form) {
    const length_s = texts.length.trim() === "" ? null : await typedNumber("Length", texts.length, { unit: "s" });
    await changePreset(form.change, { content: entry?.content ?? "", ...about, length_s });
    return;
  }
  const from = form.save === "clip" ? { clip: form.clip, layers: [] } : { layers: form.layers };
  const { preset } = await savePreset({
    shot: openShot.getState().state?.slug ?? "",
    ...from,
    ...about,
    rig: texts.rig,
  });
  note("info", `“${preset?.name}” is saved among your presets.`, {
    title: "Show",
    run: () => view.setState({ sheet: "presets" }),
  });
}

/** The texts, and saving them. */
function useForm(form: PresetForm, shot: Shot) {
  const entry = useStore(presets, ({ list }) => list.find(({ key }) => "change" in form && key === form.change));
  const [texts, setTexts] = useState<Texts>(() => textsFor(form, entry, shot));
  const [problem, setProblem] = useState("");
  const [working, setWorking] = useState(false);
  const changeTexts = (changed: Partial<Texts>) => setTexts((now) => ({ ...now, ...changed }));
  const submit = async () => {
    setProblem("");
    setWorking(true);
    try {
      await keep(form, entry, texts);
      close();
    } catch (error) {
      setProblem(explain(error));
    }
    setWorking(false);
  };
  return { texts, put: changeTexts, problem, working, submit };
}

/** Saves a clip or layers as a preset, or changes the texts of one. */
export function PresetDialog({ shot }: { shot: Shot }) {
  const form = useStore(view, (each) => each.presetForm);
  return form && <PresetFields form={form} shot={shot} />;
}

function PresetFields({ form, shot }: { form: PresetForm; shot: Shot }) {
  const { texts, put, problem, working, submit } = useForm(form, shot);
  const changes = "change" in form;
  const title = changes ? "Preset" : `Save ${form.save === "clip" ? "the clip" : "the layers"} as a preset`;
  return (
    <Dialog title={title} onClose={close}>
      <form
        className="grid grid-cols-3 gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          void submit();
        }}
      >
        <TextField
          title="Name"
          label="Name of the preset"
          wide
          most={120}
          value={texts.name}
          onChange={(name) => put({ name })}
        />
        {changes && (
          <TextField
            title="Length (empty: shot length)"
            label="Length"
            unit="s"
            value={texts.length}
            onChange={(length) => put({ length })}
          />
        )}
        <div className="col-span-3 grid">
          <TextField title="Short description" most={200} value={texts.line} onChange={(line) => put({ line })} />
        </div>
        <TextField
          title="Tags (comma-separated)"
          label="Tags"
          wide
          most={300}
          value={texts.tags}
          onChange={(tags) => put({ tags })}
        />
        <Ticks texts={texts} put={put} offersRig={!changes && shot.mounts.length > 1} />
        <Complaint text={problem} />
        <div className="col-span-3 flex justify-end">
          <button type="submit" className="btn btn-accent btn-sm" disabled={working}>
            {changes ? "Apply" : "Save"}
          </button>
        </div>
      </form>
    </Dialog>
  );
}

const RIG_HINT = "Includes the mounts behind the moving one, with their springs; placing it asks whether to use them";

type TicksProps = { texts: Texts; put: (changed: Partial<Texts>) => void; offersRig: boolean };

function Ticks({ texts, put, offersRig }: TicksProps) {
  return (
    <>
      <Tick
        title="Moves the same wherever it is placed (keeps its random starts)"
        hint="Otherwise each placed clip gets its own seeds"
        checked={texts.keepSeeds}
        onChange={(keepSeeds) => put({ keepSeeds })}
      />
      {offersRig && <Tick title="Include rig" hint={RIG_HINT} checked={texts.rig} onChange={(rig) => put({ rig })} />}
    </>
  );
}

type TickProps = { title: string; hint: string; checked: boolean; onChange: (checked: boolean) => void };

function Tick({ title, hint, checked, onChange }: TickProps) {
  return (
    <label className="col-span-3 flex items-center gap-2 text-sm" title={hint}>
      <input
        type="checkbox"
        className="checkbox checkbox-sm"
        checked={checked}
        onChange={(event) => onChange(event.target.checked)}
      />
      {title}
    </label>
  );
}
