/** Commands on the move of the open shot, at the present frame and on the mount that is chosen. */
import type { Command, MoveField, Shot } from "../api/types";
import { commit } from "../stores/editing";
import { openShot } from "../stores/openShot";
import { mountId, workMount } from "../stores/rig";
import { serverTables } from "../stores/serverTables";
import { transport } from "../stores/transport";
import { view } from "../stores/view";
import { pinTitles } from "./moveFrames";

/** Numbers of a mount, in order. */
export const FIELDS: readonly MoveField[] = serverTables()
  .forms.move.filter(({ group }) => group !== "lens")
  .map(({ field }) => field as MoveField);

export type MoveOrLens = MoveField | "focal_mm";

/** Sets a number of the move at the present frame. */
export function moveCommand(field: MoveOrLens, value: number): Command {
  const { keyEveryChange: key } = view.getState();
  const { frame } = transport.getState();
  return { type: "set_move", frame, values: { [field]: value }, key, mount: mountId() };
}

/** Address of a number of the move. */
export function addressOf(shot: Shot, field: MoveOrLens): string {
  return field === "focal_mm" ? "shot.focal_mm" : `mount:${workMount(shot)?.id ?? ""}.${field}`;
}

/** Sets a key on all axes of the move at the present frame. */
export function keyHere(): void {
  const { state } = openShot.getState();
  const { frame } = transport.getState();
  if (state)
    void commit({ type: "set_keys", keys: FIELDS.map((field) => ({ at: addressOf(state.document, field), frame })) });
}

/** The keys behind pins at some frames, or all: of the move, or of the mount whose pins are meant. */
export function keysAt(
  shot: Shot,
  frames: number[] | null,
  of = view.getState().pinsOf,
): { at: string; frame: number }[] {
  return [...pinTitles(shot, of)]
    .filter(([frame]) => frames === null || frames.includes(frame))
    .flatMap(([frame, found]) => found.map(({ at }) => ({ at, frame })));
}
