import { useState } from "react";
import { useLocation } from "wouter";
import { client, explain, take } from "../../api/client";
import { roughly } from "../../api/param";
import type { NewShot, State } from "../../api/types";
import { Complaint } from "../../parts/Complaint";
import { PictureChoice } from "../../parts/PictureChoice";
import { SetChoice, useSetFiles } from "../../parts/SetChoice";
import { typedFps } from "../../parts/shotTexts";
import { TextField } from "../../parts/TextField";
import { Dialog } from "../../shared/Dialog";
import { typedNumber } from "../../shared/number";
import { serverTables } from "../../stores/serverTables";

const LENGTH_S = 10;

/** Initial values of a new shot, as typed texts. */
function fresh() {
  const { fps, picture, sensor_mm, focal_mm } = serverTables().forms.fresh;
  return {
    name: "",
    set: "",
    fps: String(fps.num),
    seconds: String(LENGTH_S),
    picture,
    sensor: String(sensor_mm),
    focal: String(roughly(focal_mm)),
  };
}

/** Everything a new shot starts from; only the name has to be given. */
export function NewShotDialog({ project, onClose }: { project: string; onClose: () => void }) {
  const [form, setForm] = useState(fresh);
  const [problem, setProblem] = useState("");
  const setField = (field: keyof typeof form) => (value: string) => setForm((now) => ({ ...now, [field]: value }));
  const { bringing, bring, dropping } = useSetFiles(setField("set"), setProblem);
  const [, go] = useLocation();
  const [adding, setAdding] = useState(false);
  const add = async () => {
    if (adding) return;
    setAdding(true);
    try {
      const fps = await typedFps(form.fps);
      const body: NewShot = {
        name: form.name,
        fps: form.fps as unknown as NewShot["fps"], // the server reads what was typed
        seconds: await typedNumber("Length", form.seconds, { unit: "s", fps }),
        set_id: form.set || null,
        picture: form.picture,
        sensor_mm: await typedNumber("Sensor width", form.sensor, { unit: "mm", fps }),
        focal_mm: await typedNumber("Focal length", form.focal, { unit: "mm", fps }),
      };
      const params = { path: { slug: project } };
      const state = await take<State>(client.POST("/api/projects/{slug}/shots", { params, body }));
      go(`/shot/${state.slug}`);
    } catch (error) {
      setProblem(explain(error));
      setAdding(false);
    }
  };
  return (
    <Dialog title="New shot" onClose={onClose}>
      <form
        className="grid grid-cols-3 gap-3"
        {...dropping}
        onSubmit={(event) => {
          event.preventDefault();
          void add();
        }}
      >
        <TextField
          title="Name"
          label="Name of the new shot"
          wide
          most={120}
          value={form.name}
          onChange={setField("name")}
        />
        <SetChoice value={form.set} bringing={bringing} onSet={setField("set")} onFile={(file) => void bring(file)} />
        <TextField title="Frame rate" unit="fps" value={form.fps} onChange={setField("fps")} />
        <TextField title="Length" unit="s" value={form.seconds} onChange={setField("seconds")} />
        <PictureChoice value={form.picture} onChange={(picture) => setForm((now) => ({ ...now, picture }))} />
        <TextField title="Sensor width" unit="mm" value={form.sensor} onChange={setField("sensor")} />
        <TextField title="Focal length" unit="mm" value={form.focal} onChange={setField("focal")} />
        <Complaint text={problem} />
        <div className="col-span-3 flex items-center justify-end gap-3">
          <span className="mr-auto text-xs">A GLB dropped on this form becomes its set, with its own animations.</span>
          <button
            type="submit"
            className="btn btn-sm btn-primary"
            disabled={adding || !form.name.trim() || bringing !== ""}
          >
            Create
          </button>
        </div>
      </form>
    </Dialog>
  );
}
