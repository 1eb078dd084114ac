import { useState } from "react";
import { explain } from "../../api/client";
import type { Command, Shot } from "../../api/types";
import { Complaint } from "../../parts/Complaint";
import { PictureChoice } from "../../parts/PictureChoice";
import { SetChoice, useSetFiles } from "../../parts/SetChoice";
import { changes, type ShotForm, textsOf } from "../../parts/shotTexts";
import { TextField } from "../../parts/TextField";
import { TimeChoice } from "../../parts/TimeChoice";
import { Dialog } from "../../shared/Dialog";
import { commit } from "../../stores/editing";
import { view } from "../../stores/view";

const close = () => view.setState({ dialog: null });

/** Name, frame rate, range, picture, sensor and set of the open shot. Asks what keys and spans do when time changes. */
export function ShotDialog({ shot }: { shot: Shot }) {
  const [form, setForm] = useState(() => textsOf(shot));
  const [keep, setKeep] = useState<"frames" | "seconds">("frames");
  const [along, setAlong] = useState(false);
  const [problem, setProblem] = useState("");
  const set = (field: keyof ShotForm) => (value: string) => setForm((now) => ({ ...now, [field]: value }));
  const { bringing, bring, dropping } = useSetFiles(set("set"), setProblem);
  const before = textsOf(shot);
  const change = async () => {
    setProblem("");
    try {
      const changed = await changes(shot, form);
      if (Object.keys(changed).length === 0) return close();
      const command = { type: "set_shot", keep, along, ...changed } as Command;
      void commit(command, { kept: close, failed: (error) => setProblem(explain(error)) });
    } catch (error) {
      setProblem(explain(error));
    }
  };
  return (
    <Dialog title="Shot settings" onClose={close}>
      <form
        className="grid grid-cols-3 gap-3"
        {...dropping}
        onSubmit={(event) => {
          event.preventDefault();
          void change();
        }}
      >
        <TextField title="Name" label="Name of the shot" wide most={120} value={form.name} onChange={set("name")} />
        <SetChoice value={form.set} bringing={bringing} onSet={set("set")} onFile={(file) => void bring(file)} />
        <TextField title="Frame rate" unit="fps" value={form.fps} onChange={set("fps")} />
        <TextField title="First frame" unit="f" value={form.first} onChange={set("first")} />
        <TextField title="Last frame" unit="f" value={form.last} onChange={set("last")} />
        <PictureChoice value={form.picture} onChange={(picture) => setForm((now) => ({ ...now, picture }))} />
        <TextField title="Sensor width" unit="mm" value={form.sensor} onChange={set("sensor")} />
        {form.fps.trim() !== before.fps && (
          <TimeChoice
            title="When the frame rate changes, keep"
            value={keep}
            choices={{ frames: "their frames", seconds: "their seconds" }}
            onChoice={setKeep}
          />
        )}
        {form.first.trim() !== before.first && (
          <TimeChoice
            title="When the first frame changes, keys and spans"
            value={along ? "along" : "stay"}
            choices={{ stay: "stay where they are", along: "move along" }}
            onChoice={(choice) => setAlong(choice === "along")}
          />
        )}
        <Complaint text={problem} />
        <div className="col-span-3 flex items-center justify-end gap-3">
          <span className="mr-auto text-xs">One step of undo.</span>
          <button type="submit" className="btn btn-sm btn-primary" disabled={!form.name.trim() || bringing !== ""}>
            Apply
          </button>
        </div>
      </form>
    </Dialog>
  );
}
