/** Edits of the open shot that are made elsewhere, in another window or from a shell, are shown here within a second. */
import { client, take } from "../api/client";
import { editing } from "./editing";
import { note } from "./notes";
import { adopt, fetchShot, openShot, stillOpen } from "./openShot";
import { previewState } from "./preview";

const EVERY_MS = 600;

/** Looks for newer revisions until the returned function is called. */
export function followEdits(): () => void {
  let timer = 0;
  let ended = false;
  const next = async () => {
    // A server that is away is reported by what the window itself asks for.
    await look().catch(() => undefined);
    if (!ended) timer = window.setTimeout(next, EVERY_MS);
  };
  timer = window.setTimeout(next, EVERY_MS);
  return () => {
    ended = true;
    window.clearTimeout(timer);
  };
}

async function look(): Promise<void> {
  const { state } = openShot.getState();
  if (!state || isBusy()) return;
  const open = stillOpen();
  const params = { path: { shot: state.id } };
  const { revision } = await take<{ revision: number }>(client.GET("/api/shots/{shot}/revision", { params }));
  if (revision === state.revision) return;
  const there = await fetchShot(state.id, state.variant);
  if (!open() || isBusy() || openShot.getState().state !== state) return;
  adopt(there);
  if (there.variant !== state.variant) note("info", "Another window deleted this variant; you now see the main one");
}

/** Whether this window edits or previews something: its own answer has priority. */
function isBusy(): boolean {
  const { command, revision } = previewState.getState();
  return command !== null || revision !== null || editing.getState().saving > 0;
}
