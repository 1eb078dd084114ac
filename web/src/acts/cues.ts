/** Actions on cues, for the row, the board and the command list. */
import { client, sendForm, take } from "../api/client";
import type { Command, State } from "../api/types";
import { download } from "../shared/download";
import { commit, inTurn } from "../stores/editing";
import { adopt, openShot } from "../stores/openShot";
import { madeBy } from "../stores/selection";
import { transport } from "../stores/transport";
import { view } from "../stores/view";
import { type TargetRequest, targetOf } from "./targets";

/** Shows cues on the board. */
export function selectCues(cues: string[]): void {
  view.setState({ board: "cue", cues, axes: [], pins: [], formula: null });
}

/** A cue at the playhead; while it plays, at the moment of the tap. The board turns to it only while the shot stands. */
export function cueHere(): void {
  const { frame, playing } = transport.getState();
  const stateWithCue = (state: State) => {
    if (!playing) selectCues(madeBy(state, "cue"));
  };
  void commit({ type: "add_cues", cues: [{ frame, name: "", strength: 1 }] }, { kept: stateWithCue });
}

export function removeCues(): void {
  const { cues } = view.getState();
  if (cues.length) void commit({ type: "remove_cues", cues });
}

export function setCues(changes: Partial<Extract<Command, { type: "set_cues" }>>): Promise<void> {
  return commit({ type: "set_cues", cues: view.getState().cues, nowhere: false, ...changes });
}

/** The selected cues happen at something, wherever it is at their frames. */
export async function cuesAt(asked: TargetRequest): Promise<void> {
  const found = targetOf(asked);
  if ("target" in found) return setCues({ on: found.target });
  const { cues } = view.getState();
  return inTurn(async ({ slug, revision }) => {
    const params = { path: { shot: slug } };
    const body = { base_revision: revision, cues, ...found };
    adopt(await take<State>(client.POST("/api/shots/{shot}/cues/at", { params, body })));
  });
}

/** Adds the cues of a CSV file. */
export function importCues(file: File): Promise<void> {
  return inTurn(async ({ slug, revision }) => {
    const fields = { file, base_revision: String(revision) };
    adopt(await sendForm<State>(`/api/shots/${slug}/cues`, fields, file.name));
  });
}

export function exportCues(): void {
  const slug = openShot.getState().state?.slug;
  if (slug) download(`/api/shots/${slug}/cues`);
}
