import { useState } from "react";
import { useLocation } from "wouter";
import { client, explain, take } from "../../api/client";
import type { State } from "../../api/types";
import { Dialog } from "../../shared/Dialog";
import { Complaint, PictureChoice, SetChoice, TextField, useSetFiles } from "../shot-form";

/** Everything a new shot starts from; only the name has to be given. */
export function NewShotDialog({ project, onClose }: { project: string; onClose: () => void }) {
  const [name, setName] = useState("");
  const [set, setSet] = useState("");
  const [fps, setFps] = useState("24");
  const [seconds, setSeconds] = useState("10");
  const [picture, setPicture] = useState({ width_px: 1920, height_px: 1080 });
  const [sensor, setSensor] = useState("36");
  const [focal, setFocal] = useState("35");
  const [problem, setProblem] = useState("");
  const { bringing, bring, dropping } = useSetFiles(setSet, setProblem);
  const [, go] = useLocation();
  const add = async () => {
    const rate = fps.includes("/") ? Number(fps.split("/")[0]) / Number(fps.split("/")[1]) : Number(fps);
    const body = {
      name,
      fps: fps as unknown as { num: number; den: number },
      frames: Math.max(1, Math.round(Number(seconds) * rate)),
      set_id: set || null,
      picture,
      sensor_mm: Number(sensor),
      focal_mm: Number(focal),
    };
    try {
      const state = await take<State>(
        client.POST("/api/projects/{slug}/shots", { params: { path: { slug: project } }, body }),
      );
      go(`/shot/${state.slug}`);
    } catch (error) {
      setProblem(explain(error));
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
        <TextField title="Name" label="Name of the new shot" wide most={120} value={name} onChange={setName} />
        <SetChoice value={set} bringing={bringing} onSet={setSet} onFile={(file) => void bring(file)} />
        <TextField title="Frame rate" unit="fps" value={fps} onChange={setFps} />
        <TextField title="Length" unit="s" value={seconds} onChange={setSeconds} />
        <PictureChoice value={picture} onChange={setPicture} />
        <TextField title="Sensor width" unit="mm" value={sensor} onChange={setSensor} />
        <TextField title="Focal length" unit="mm" value={focal} onChange={setFocal} />
        <Complaint text={problem} />
        <div className="col-span-3 flex items-center justify-end gap-3">
          <span className="mr-auto text-xs">A GLB dropped on this form becomes its set, with its own animations.</span>
          <button type="submit" className="btn btn-sm btn-primary" disabled={!name.trim() || bringing !== ""}>
            Make
          </button>
        </div>
      </form>
    </Dialog>
  );
}
