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
import { TimeChoice } from "./TimeChoice";

const close = () => view.setState({ dialog: null });

/** What was changed, as one step. */
function changes(shot: Shot, next: Record<string, unknown>): Record<string, unknown> {
  const before = shot as unknown as Record<string, unknown>;
  const differs = ([field, value]: [string, unknown]) =>
    JSON.stringify(value) !== JSON.stringify(before[field] ?? null);
  return Object.fromEntries(Object.entries(next).filter(differs));
}

const fpsText = ({ num, den }: { num: number; den?: number }) => (den && den !== 1 ? `${num}/${den}` : String(num));

/** Name, frame rate, range, picture, sensor and set of the open shot. Asks what keys and spans do when time changes. */
export function ShotDialog({ shot }: { shot: Shot }) {
  const [name, setName] = useState(shot.name);
  const [fps, setFps] = useState(fpsText(shot.fps));
  const [first, setFirst] = useState(String(shot.first_frame));
  const [last, setLast] = useState(String(shot.last_frame));
  const [picture, setPicture] = useState(shot.picture);
  const [sensor, setSensor] = useState(String(shot.sensor_mm));
  const [set, setSet] = useState(shot.set_id ?? "");
  const [keep, setKeep] = useState<"frames" | "seconds">("frames");
  const [along, setAlong] = useState(false);
  const [problem, setProblem] = useState("");
  const { bringing, bring, dropping } = useSetFiles(setSet, setProblem);
  const otherRate = fps.trim() !== fpsText(shot.fps);
  const otherStart = Number(first) !== shot.first_frame;
  const change = () => {
    const rate = fps.trim() === fpsText(shot.fps) ? shot.fps : fps.trim();
    const numbers = { first_frame: Number(first), last_frame: Number(last), sensor_mm: Number(sensor) };
    const next = { name: name.trim(), fps: rate, picture, set_id: set || null, ...numbers };
    const changed = changes(shot, next);
    setProblem("");
    if (Object.keys(changed).length === 0) return close();
    const command = { type: "set_shot", keep, along, ...changed } as Command;
    void commit(command, close, (error) => setProblem(explain(error)));
  };
  return (
    <Dialog title="This shot" onClose={close}>
      <form
        className="grid grid-cols-3 gap-3"
        {...dropping}
        onSubmit={(event) => {
          event.preventDefault();
          change();
        }}
      >
        <TextField title="Name" label="Name of the shot" wide most={120} value={name} onChange={setName} />
        <SetChoice value={set} bringing={bringing} onSet={setSet} onFile={(file) => void bring(file)} />
        <TextField title="Frame rate" unit="fps" value={fps} onChange={setFps} />
        <TextField title="First frame" unit="f" value={first} onChange={setFirst} />
        <TextField title="Last frame" unit="f" value={last} onChange={setLast} />
        <PictureChoice value={picture} onChange={setPicture} />
        <TextField title="Sensor width" unit="mm" value={sensor} onChange={setSensor} />
        {otherRate && (
          <TimeChoice
            title="At the other frame rate, keys and spans keep"
            value={keep}
            choices={{ frames: "their frames", seconds: "their seconds" }}
            onChoice={setKeep}
          />
        )}
        {otherStart && (
          <TimeChoice
            title="With the other first frame, keys and spans"
            value={along ? "along" : "stay"}
            choices={{ stay: "stay where they are", along: "move along" }}
            onChoice={(choice) => setAlong(choice === "along")}
          />
        )}
        <Complaint text={problem} />
        <div className="col-span-3 flex items-center justify-end gap-3">
          <span className="mr-auto text-xs">One step of undo.</span>
          <button type="submit" className="btn btn-sm btn-primary" disabled={!name.trim() || bringing !== ""}>
            Change
          </button>
        </div>
      </form>
    </Dialog>
  );
}
