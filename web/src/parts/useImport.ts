import { useEffect, useState } from "react";
import { useLocation } from "wouter";
import { useStore } from "zustand";
import { importAsShot, setOf } from "../acts/importing";
import { explain, Problem, sendForm } from "../api/client";
import type { CameraFile, Cut, Imported, SetObjects, State } from "../api/types";
import { commit } from "../stores/editing";
import { note } from "../stores/notes";
import { adopt, fetchShot } from "../stores/openShot";
import { view } from "../stores/view";

/** A file that was read: its cameras, or the name of the shot that it is. */
export type Found = CameraFile & { file: File };
export type Into = "replace" | "add" | "new";

export const closeImport = () => view.setState({ dialog: null, importFile: null });

/** Reading a file, and bringing it in: as a set, as a path of the open shot, or as a new shot. */
export function useImport(state: State | null, projectSlug: string) {
  const dropped = useStore(view, (each) => each.importFile);
  const [found, setFound] = useState<Found | null>(null);
  const [camera, chooseCamera] = useState("");
  /** The chosen reading of its path, where it is ambiguous. */
  const [chosen, setChosen] = useState(0);
  const setCamera = (name: string) => {
    chooseCamera(name);
    setChosen(0);
  };
  const readings = found?.readings?.[camera] ?? [];
  const [asSet, setAsSet] = useState<File | null>(null);
  const [cut, setCut] = useState<(Cut & { file: File }) | null>(null);
  const [problem, setProblem] = useState("");
  const [working, setWorking] = useState(false);
  const [, go] = useLocation();

  /** Does one thing at a time; errors are shown in the form, which then stays open. */
  const doing = async (about: string, work: () => Promise<void>) => {
    setProblem("");
    setWorking(true);
    try {
      await work();
    } catch (error) {
      setProblem(about + explain(error));
    }
    setWorking(false);
  };
  /** Shows the range of this shot in a cut; it is applied as an edit. */
  const readCut = (file: File, handles = 0) =>
    doing(`${file.name}: `, async () => {
      if (!state) throw new Error("open the shot of the cut first");
      setFound(null);
      const fields = { file, handles: String(handles) };
      setCut({ ...(await sendForm<Cut>(`/api/shots/${state.slug}/cut`, fields, file.name)), file });
    });
  const conform = ({ command }: Cut) => {
    closeImport();
    void commit(command);
  };
  const inspect = (file: File) =>
    doing(`${file.name}: `, async () => {
      setFound(null);
      setCut(null);
      setAsSet(/\.glb$/i.test(file.name) ? file : null);
      const answer = await sendForm<CameraFile>("/api/imports/inspect", { file }, file.name);
      setFound({ file, ...answer });
      setCamera(answer.cameras[0] ?? "");
    });
  const playIn = (file: File) =>
    doing(`${file.name}: `, async () => {
      const { set_id } = await sendForm<SetObjects>("/api/sets", { file }, file.name);
      closeImport();
      void commit({ type: "set_values", values: [{ at: "shot.set_id", value: set_id }] });
    });
  /** Another client changed the shot first: their change is shown, and the next attempt is based on it. */
  const catchUp = async (error: unknown, slug: string) => {
    if (!(error instanceof Problem && error.status === 409)) throw error;
    adopt(await fetchShot(slug, state?.variant ?? null));
    throw new Error(`${explain(error)}. You now see that version; press again to import onto it`);
  };
  const bringIn = ({ file, shot }: Found, into: Into, fps: string) =>
    doing("", async () => {
      const { z_up = false, centimeters = false } = readings[chosen] ?? {};
      const path: Record<string, string> =
        shot === null ? { camera, z_up: String(z_up), centimeters: String(centimeters) } : {};
      const fields = { file, ...path };
      const here = into !== "new" && state;
      const done = here
        ? await sendForm<Imported>(
            `/api/shots/${state.slug}/imports`,
            { ...fields, how: into, base_revision: String(state.revision) },
            file.name,
          ).catch((error) => catchUp(error, state.slug))
        : await importAsShot(file, projectSlug, { ...(shot === null ? { ...path, fps } : {}), ...setOf(state) });
      for (const text of done.notices) note("info", text);
      closeImport();
      if (here) adopt(done.state);
      else go(`/shot/${done.state.slug}`);
    });
  const read = (file: File) => (/\.otio$/i.test(file.name) ? readCut(file) : inspect(file));
  useEffect(() => {
    if (dropped) void read(dropped);
  }, [dropped]);
  return {
    found,
    camera,
    setCamera,
    readings,
    chosen,
    onChoose: setChosen,
    asSet,
    cut,
    readCut,
    conform,
    problem,
    working,
    read,
    playIn,
    bringIn,
  };
}
