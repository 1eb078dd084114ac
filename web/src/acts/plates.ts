/** Actions on plates, for the board, the Set view, the command list and dropped files. */
import { sendForm } from "../api/client";
import type { State } from "../api/types";
import { commit, inTurn } from "../stores/editing";
import { complain } from "../stores/notes";
import { adopt } from "../stores/openShot";
import { madeBy, selectNothing } from "../stores/selection";
import { stage } from "../stores/stage";
import { view } from "../stores/view";

const ENDINGS = /\.(png|jpe?g|webp)$/i;
const USUAL_OVERSCAN = "10";

/** File types of pictures for file dialogs. */
export const PICTURE_FILES = "image/png,image/jpeg,image/webp";

export const isPicture = ({ name, type }: File): boolean =>
  PICTURE_FILES.split(",").includes(type) || ENDINGS.test(name);

export function selectPlate(plate: string): void {
  view.setState({ board: "plate", plate, axes: [], pins: [], formula: null });
}

/** Hangs pictures in front of the lens, and shows the last one on the board. */
export async function hangPictures(files: File[]): Promise<void> {
  try {
    await inTurn(async ({ slug, revision }) => {
      const fields = { files, base_revision: String(revision), overscan_percent: USUAL_OVERSCAN };
      const state = await sendForm<State>(`/api/shots/${slug}/plates`, fields, "");
      adopt(state);
      const plate = madeBy(state, "plate").at(-1);
      if (plate) selectPlate(plate);
    });
  } catch (error) {
    complain(error);
  }
}

/** Shows another picture on a plate. */
export function showPicture(plate: string, file: File): Promise<void> {
  return inTurn(async ({ slug, revision }) => {
    const fields = { file, base_revision: String(revision) };
    adopt(await sendForm<State>(`/api/shots/${slug}/plates/${plate}`, fields, file.name));
    stage.setState(({ hung }) => ({ hung: hung + 1 }));
  });
}

export function removePlate(): void {
  const { plate } = view.getState();
  if (plate) void commit({ type: "remove_plate", plate }, { kept: selectNothing });
}

/** Asks for files, then hangs them. */
export function choosePictures(): void {
  const box = document.createElement("input");
  box.type = "file";
  box.accept = PICTURE_FILES;
  box.multiple = true;
  box.onchange = () => void hangPictures([...(box.files ?? [])]);
  box.click();
}
