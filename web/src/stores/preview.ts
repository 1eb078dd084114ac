/** Trying on: the motion of a command that is not kept, or of an older revision, in place of what is kept. */
import { createStore } from "zustand/vanilla";
import type { Command } from "../api/types";
import { feed } from "./motion";
import { complain } from "./notes";
import { openShot, whenOpened } from "./openShot";
import { transport } from "./transport";

export type Preview = {
  /** Preview during a drag. */
  command: Command | null;
  /** The older revision that is looked at. */
  revision: number | null;
};

const NOTHING: Preview = { command: null, revision: null };

export const previewState = createStore<Preview>(() => NOTHING);

/** Counts the trials that have ended. */
let ended = 0;

whenOpened(() => {
  ended += 1;
  previewState.setState(NOTHING);
});

/** Previews a command without saving it; `told`: keys, bars and cues too, where the document shows them. */
export function preview(command: Command, told = false): void {
  previewState.setState({ command });
  ask([command], told);
}

/** Drops what is tried on. */
export function cancelPreview(): void {
  endTrial();
  refresh();
}

/** No command is tried on any more; what is shown stays until something else is asked for. */
export function endTrial(): void {
  ended += 1;
  if (previewState.getState().command) previewState.setState({ command: null });
}

/** Shows the motion of an older revision, or of the present one again. */
export function lookAt(revision: number | null): void {
  if (previewState.getState().revision === null && revision === null) return;
  previewState.setState({ revision });
  ask([]);
}

/** Asks again for what is kept, for example when other curves are wanted; not while something else is shown. */
export function refresh(): void {
  const { command, revision } = previewState.getState();
  if (!command && revision === null) ask([]);
}

function ask(commands: Command[], told = false): void {
  const { state } = openShot.getState();
  if (!state) return;
  const before = ended;
  const over = () => commands.length > 0 && before !== ended;
  // A finished command on top of its result would be shown twice; a canceled one, again.
  const late = (answered: number, followed: boolean) => over() && (followed || answered !== state.revision);
  feed(state.slug, commands, { revision: previewState.getState().revision, told, late }).catch((error) => {
    // An error of a finished preview is ignored: its subject may be saved already, elsewhere.
    if (over()) refresh();
    else complain(error);
  });
}

// Back on the network: what was asked in vain is asked again.
window.addEventListener("online", refresh);

const REST_MS = 120;
let waiting = 0;

/** Readings at a frame are updated once it rests. */
transport.subscribe((now, before) => {
  if (now.playing || (now.frame === before.frame && now.playing === before.playing)) return;
  clearTimeout(waiting);
  waiting = window.setTimeout(refresh, REST_MS);
});
