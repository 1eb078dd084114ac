import { useState } from "react";
import { explain } from "../../api/client";
import type { Command, Shot } from "../../api/types";
import { Dialog } from "../../shared/Dialog";
import { commit } from "../../stores/session";
import { view } from "../../stores/view";
import { Complaint } from "./Complaint";
import { PictureChoice } from "./PictureChoice";
import { SetChoice, useSetFiles } from "./SetChoice";
import { TextField } from "./TextField";

const close = () => view.setState({ dialog: null });

/** What was changed, as one step. The end that moves away goes first, so that the range is never upside down. */
function changes(shot: Shot, next: Record<string, unknown>, first: number): Command | null {
  const order = first > shot.last_frame ? ["last_frame", "first_frame"] : ["first_frame", "last_frame"];
  const fields = [...Object.keys(next).filter((field) => !order.includes(field)), ...order];
  const before = shot as unknown as Record<string, unknown>;
  const values = fields
    .filter((field) => JSON.stringify(next[field]) !== JSON.stringify(before[field] ?? null))
    .map((field) => ({ at: `shot.${field}`, value: next[field] }));
  return values.length ? { type: "set_values", values } : null;
}

const fpsText = ({ num, den }: { num: number; den?: number }) => (den && den !== 1 ? `${num}/${den}` : String(num));

/** Name, frame rate, range, picture, sensor and set of the open shot. Keys stay at their frames. */
export function ShotDialog({ shot }: { shot: Shot }) {
  const [name, setName] = useState(shot.name);
  const [fps, setFps] = useState(fpsText(shot.fps));
  const [first, setFirst] = useState(String(shot.first_frame));
  const [last, setLast] = useState(String(shot.last_frame));
  const [picture, setPicture] = useState(shot.picture);
  const [sensor, setSensor] = useState(String(shot.sensor_mm));
  const [set, setSet] = useState(shot.set_id ?? "");
  const [problem, setProblem] = useState("");
  const { bringing, bring, dropping } = useSetFiles(setSet, setProblem);
  const keep = () => {
    const rate = fps.trim() === fpsText(shot.fps) ? shot.fps : fps.trim();
    const numbers = { first_frame: Number(first), last_frame: Number(last), sensor_mm: Number(sensor) };
    const next = { name: name.trim(), fps: rate, picture, set_id: set || null, ...numbers };
    const command = changes(shot, next, numbers.first_frame);
    setProblem("");
    if (command) void commit(command, close, (error) => setProblem(explain(error)));
    else close();
  };
  return (
    <Dialog title="This shot" onClose={close}>
      <form
        className="grid grid-cols-3 gap-3"
        {...dropping}
        onSubmit={(event) => {
          event.preventDefault();
          keep();
        }}
      >
        <TextField title="Name" label="Name of the shot" wide most={120} value={name} onChange={setName} />
        <SetChoice value={set} bringing={bringing} onSet={setSet} onFile={(file) => void bring(file)} />
        <TextField title="Frame rate" unit="fps" value={fps} onChange={setFps} />
        <TextField title="First frame" unit="f" value={first} onChange={setFirst} />
        <TextField title="Last frame" unit="f" value={last} onChange={setLast} />
        <PictureChoice value={picture} onChange={setPicture} />
        <TextField title="Sensor width" unit="mm" value={sensor} onChange={setSensor} />
        <Complaint text={problem} />
        <div className="col-span-3 flex items-center justify-end gap-3">
          <span className="mr-auto text-xs">Keys and spans stay at their frames; one step of undo.</span>
          <button type="submit" className="btn btn-sm btn-primary" disabled={!name.trim() || bringing !== ""}>
            Change
          </button>
        </div>
      </form>
    </Dialog>
  );
}
