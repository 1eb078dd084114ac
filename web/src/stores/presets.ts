/** The presets, the user's own among them, and those that are marked to be compared. */
import { createStore } from "zustand/vanilla";
import { client, explain, sendForm, take } from "../api/client";
import type { Preset, PresetAbout, PresetEntry, PresetSave, PresetShelf } from "../api/types";
import { complain, note } from "./notes";

export type Presets = {
  /** Shipped ones first; none until they have been asked for. */
  list: PresetEntry[];
  undoLabel: string | null;
  redoLabel: string | null;
  /** Keys of those that play side by side. */
  marked: string[];
};

/** Maximum number of those. */
const MAX_MARKED = 4;

export const presets = createStore<Presets>(() => ({ list: [], undoLabel: null, redoLabel: null, marked: [] }));

function adoptShelf(shelf: PresetShelf): void {
  const keys = shelf.presets.map(({ key }) => key);
  presets.setState(({ marked }) => ({
    list: shelf.presets,
    undoLabel: shelf.undo_label,
    redoLabel: shelf.redo_label,
    marked: marked.filter((key) => keys.includes(key)),
  }));
}

export async function loadPresets(): Promise<void> {
  adoptShelf(await take<PresetShelf>(client.GET("/api/presets")));
}

export const undoPresets = () => take<PresetShelf>(client.POST("/api/presets/undo")).then(adoptShelf, complain);
export const redoPresets = () => take<PresetShelf>(client.POST("/api/presets/redo")).then(adoptShelf, complain);

/** Runs an action on the presets, and reloads them afterwards. */
async function changing<T>(work: Promise<T>): Promise<T> {
  try {
    return await work;
  } finally {
    await loadPresets().catch(complain);
  }
}

const at = (key: string) => ({ params: { path: { key } } });

export const savePreset = (body: PresetSave) => changing(take<PresetEntry>(client.POST("/api/presets", { body })));

export const changePreset = (key: string, body: PresetAbout) =>
  changing(take<PresetEntry>(client.PUT("/api/presets/{key}", { ...at(key), body })));

/** Puts what a clip holds in the place of what a preset holds. */
export const fillPreset = (entry: PresetEntry, shot: string, clip: string) =>
  changing(
    take<PresetEntry>(
      client.PUT("/api/presets/{key}/content", { ...at(entry.key), body: { content: entry.content, shot, clip } }),
    ),
  ).catch(complain);

export const removePreset = ({ key, content }: PresetEntry) =>
  changing(take<void>(client.DELETE("/api/presets/{key}", { params: { path: { key }, query: { content } } }))).then(
    () => note("info", "The preset is deleted.", { title: "Undo", run: () => void undoPresets() }),
    complain,
  );

/** Brings presets in from files. */
export async function importPresets(files: File[]): Promise<void> {
  for (const file of files) {
    try {
      const { preset } = await changing(sendForm<PresetEntry>("/api/presets/file", { file }, file.name));
      if (preset) note("info", `“${preset.name}” is among your presets now.`);
    } catch (error) {
      note("error", `${file.name}: ${explain(error)}`);
    }
  }
}

/** Marks a preset for comparison, or unmarks it; the oldest mark is dropped. */
export function toggleMark(key: string): void {
  presets.setState(({ marked }) => ({
    marked: marked.includes(key) ? marked.filter((each) => each !== key) : [...marked, key].slice(-MAX_MARKED),
  }));
}

export function readable(entry: PresetEntry): entry is PresetEntry & { preset: Preset } {
  return entry.preset !== null;
}
