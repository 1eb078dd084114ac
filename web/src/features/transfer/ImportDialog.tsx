import { useEffect, useState } from "react";
import { useLocation } from "wouter";
import { useStore } from "zustand";
import { explain, sendForm } from "../../api/client";
import type { CameraFile, Imported, SetObjects, State } from "../../api/types";
import { Dialog } from "../../shared/Dialog";
import { note } from "../../stores/notes";
import { adopt, commit } from "../../stores/session";
import { view } from "../../stores/view";
import { Complaint } from "../shot-form";

type Found = { file: File; cameras: string[]; notices: string[]; shot: string | null };

const close = () => view.setState({ dialog: null, importFile: null });

/** Chooses a file, then a camera, then where its path goes: into this shot, or into a new one. */
export function ImportDialog({ state, projectSlug }: { state: State | null; projectSlug: string }) {
  const dropped = useStore(view, (each) => each.importFile);
  const [found, setFound] = useState<Found | null>(null);
  const [camera, setCamera] = useState("");
  const [fps, setFps] = useState(state ? `${state.document.fps.num}/${state.document.fps.den}` : "24");
  const [problem, setProblem] = useState("");
  const [working, setWorking] = useState(false);
  const [asSet, setAsSet] = useState<File | null>(null);
  const [, go] = useLocation();

  const inspect = async (file: File) => {
    setProblem("");
    setFound(null);
    setAsSet(/\.glb$/i.test(file.name) ? file : null);
    setWorking(true);
    try {
      const answer = await sendForm<CameraFile>("/api/imports/inspect", { file }, file.name);
      setFound({ file, cameras: answer.cameras, notices: answer.notices, shot: answer.shot });
      setCamera(answer.cameras[0] ?? "");
    } catch (error) {
      setProblem(`${file.name}: ${explain(error)}`);
    }
    setWorking(false);
  };
  useEffect(() => {
    if (dropped) void inspect(dropped);
  }, [dropped]);

  const playIn = async (file: File) => {
    setWorking(true);
    setProblem("");
    try {
      const { set_id } = await sendForm<SetObjects>("/api/sets", { file }, file.name);
      close();
      void commit({ type: "set_values", values: [{ at: "shot.set_id", value: set_id }] });
    } catch (error) {
      setProblem(`${file.name}: ${explain(error)}`);
      setWorking(false);
    }
  };

  const bringIn = async (into: "replace" | "add" | "new") => {
    if (!found) return;
    setWorking(true);
    setProblem("");
    try {
      const fields = { file: found.file, ...(found.shot === null ? { camera } : {}) };
      const done =
        into !== "new" && state
          ? await sendForm<Imported>(
              `/api/shots/${state.slug}/imports`,
              { ...fields, how: into, base_revision: String(state.revision) },
              found.file.name,
            )
          : await sendForm<Imported>(`/api/projects/${projectSlug}/imports`, { ...fields, fps }, found.file.name);
      for (const text of done.notices) note("info", text);
      close();
      if (into !== "new") adopt(done.state);
      else go(`/shot/${done.state.slug}`);
    } catch (error) {
      setProblem(explain(error));
      setWorking(false);
    }
  };

  return (
    <Dialog title="Bring in a camera path" onClose={close}>
      <p className="mb-3 text-sm">
        A camera from a GLB or glTF file, its parents animated too, or a CSV with a pose a row; or a shot that was
        exported as .shot.json.
      </p>
      <input
        type="file"
        aria-label="Camera path file"
        accept=".glb,.gltf,.csv,.json"
        className="file-input file-input-sm mb-3 w-full"
        onChange={(event) => {
          const file = event.target.files?.[0];
          if (file) void inspect(file);
        }}
      />
      <Complaint text={problem} />
      {found?.shot && (
        <p className="mb-3 text-sm">
          {found.file.name} is the shot “{found.shot}”. It opens as a new shot, with its own move, layers and lens.
        </p>
      )}
      {found?.shot === null && (
        <div className="mb-3 grid grid-cols-2 gap-3 text-sm">
          <label className="flex flex-col gap-1">
            Camera in {found.file.name}
            <select
              className="select select-sm w-full"
              value={camera}
              onChange={(event) => setCamera(event.target.value)}
            >
              {found.cameras.map((name) => (
                <option key={name}>{name}</option>
              ))}
            </select>
          </label>
          <label className="flex flex-col gap-1">
            Frames a second (new shot)
            <input className="input input-sm w-full" value={fps} onChange={(event) => setFps(event.target.value)} />
          </label>
          {found.notices.map((text) => (
            <p key={text} className="col-span-2 text-xs">
              {text}
            </p>
          ))}
        </div>
      )}
      <div className="flex justify-end gap-2">
        {state && asSet && (
          <button
            type="button"
            className="btn btn-sm btn-neutral mr-auto"
            disabled={working}
            onClick={() => void playIn(asSet)}
          >
            Use as the set of this shot
          </button>
        )}
        {state && (
          <>
            <button
              type="button"
              className="btn btn-sm btn-neutral"
              disabled={!found || found.shot !== null || working}
              title="The path rides on the move that is there: the camera departs from it as the path departs from its own start"
              onClick={() => void bringIn("add")}
            >
              Add to this shot’s move
            </button>
            <button
              type="button"
              className="btn btn-sm btn-neutral"
              disabled={!found || found.shot !== null || working}
              title="The path takes the place of the move; the layers stay"
              onClick={() => void bringIn("replace")}
            >
              Replace it
            </button>
          </>
        )}
        <button
          type="button"
          className="btn btn-sm btn-primary"
          disabled={!found || working}
          onClick={() => void bringIn("new")}
        >
          {working ? "Reading …" : found?.shot ? "Open as a new shot" : "Make a new shot"}
        </button>
      </div>
    </Dialog>
  );
}
