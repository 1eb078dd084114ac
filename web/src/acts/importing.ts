/** Files that become shots of a project. */
import { explain, sendForm } from "../api/client";
import type { Imported, State } from "../api/types";
import { note } from "../stores/notes";

/** A path that is brought in from an open shot plays in that shot's set. */
export const setOf = (state: State | null): Record<string, string> => (state ? { set_of: state.slug } : {});

/** Makes a shot of a camera path, or of a shot's own file. */
export function importAsShot(file: File, project: string, fields: Record<string, string>): Promise<Imported> {
  return sendForm<Imported>(`/api/projects/${project}/imports`, { file, ...fields }, file.name);
}

/** Makes a shot of each of several files, one after another; what cannot be read is reported by name. */
export async function importEach(files: File[], project: string, state: State | null): Promise<void> {
  let imported = 0;
  for (const file of files) {
    try {
      const { notices } = await importAsShot(file, project, setOf(state));
      for (const text of notices) note("info", `${file.name}: ${text}`);
      imported++;
    } catch (error) {
      note("error", `${file.name}: ${explain(error)}`);
    }
  }
  if (imported) note("info", imported === 1 ? "1 new shot" : `${imported} new shots`);
}
