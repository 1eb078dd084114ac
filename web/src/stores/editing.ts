/** Editing the open shot: one change after another, each kept by the server before the next is sent. */
import { createStore } from "zustand/vanilla";
import { having, takeState } from "../api/changes";
import { client, explain, Problem, take } from "../api/client";
import { envelope } from "../api/envelope";
import type { Command, Layer, State } from "../api/types";
import { feed, motion } from "./motion";
import { complain, note } from "./notes";
import { adopt, editTarget, fetchShot, newestOf, openShot, whenOpened } from "./openShot";
import { endTrial, refresh } from "./preview";
import { transport } from "./transport";

export type Editing = {
  /** Changes on their way. */
  saving: number;
  /** Values by address that were set and not yet answered. */
  pending: Record<string, unknown>;
};

const NOTHING: Editing = { saving: 0, pending: {} };

export const editing = createStore<Editing>(() => NOTHING);

whenOpened(() => editing.setState(NOTHING));

let queue: Promise<unknown> = Promise.resolve();
/** Changes of any shot on their way. */
let waiting = 0;

/** The browser asks before a page is closed while something is not kept yet. */
window.addEventListener("beforeunload", (event) => {
  if (waiting > 0) event.preventDefault();
});

/** Options of a change: the action after it is saved, and the handler of its errors instead of the message area. */
export type Then = { kept?: (state: State) => void; failed?: (error: unknown) => void };

/** Keeps a command as one revision; one that is made when its turn comes knows what those before it did, and may be none. */
export function commit(given: Command | ((state: State) => Command | null), then: Then = {}): Promise<void> {
  const known = typeof given === "function" ? undefined : given;
  const settled = known && expect(known);
  return inTurn(
    async (state, open) => {
      const command = typeof given === "function" ? given(state) : given;
      if (!command) return;
      const path = { shot: state.slug };
      const body = { base_revision: state.revision, command };
      const call = client.POST("/api/shots/{shot}/edits", { params: { path }, body, ...having(state) });
      const after = await takeState(call, state);
      adopt(after);
      if (!open()) return;
      if (after.said) note("info", after.said[0]?.toUpperCase() + after.said.slice(1));
      then.kept?.(after);
    },
    { command: known, failed: then.failed },
  ).finally(settled);
}

/** Whether all changes are saved and displayed. */
export function settled(): boolean {
  return editing.getState().saving === 0 && motion.getState().revision === openShot.getState().state?.revision;
}

/** Displays plainly set values immediately, and their motion while they are being saved. Returns what ends that. */
function expect(command: Command): () => void {
  const { state } = openShot.getState();
  if (command.type !== "set_values") return () => undefined;
  const values = Object.fromEntries(command.values.map(({ at, value }) => [at, value]));
  editing.setState(({ pending }) => ({ pending: { ...pending, ...values } }));
  if (state && editing.getState().saving === 0) feed(state.slug, [command]).catch(() => undefined);
  return () =>
    editing.setState(({ pending }) => ({
      pending: Object.fromEntries(Object.entries(pending).filter(([at, value]) => values[at] !== value)),
    }));
}

/** Mutes or solos layers, or takes it back: all as the last one is not. */
export function flip(layers: Layer[], field: "mute" | "solo"): void {
  const last = layers.at(-1);
  if (!last) return;
  const value = !(editing.getState().pending[`layer:${last.id}.${field}`] ?? last[field]);
  void commit({ type: "set_values", values: layers.map(({ id }) => ({ at: `layer:${id}.${field}`, value })) });
}

/** Shows another variant when all changes of this one are kept. */
export function showVariant(id: string): Promise<void> {
  if (openShot.getState().state?.variant === id) return Promise.resolve();
  return inTurn(async (state) => adopt(await fetchShot(state.slug, id)));
}

/** Marks an object of the set, or a point of it, as the subject; or none. */
export function markSubject(object: string | null, point?: [number, number, number]): Promise<void> {
  const { frame } = transport.getState();
  return inTurn(async (state) => {
    const params = { path: { shot: state.slug } };
    const body = { base_revision: state.revision, object, point_m: point ?? null, frame };
    adopt(await take<State>(client.POST("/api/shots/{shot}/subject", { params, body })));
  });
}

/** Runs an action with the newest state of the shot that is open now, after all earlier changes are saved, even when that shot was left; `open` returns whether it is still the open one. */
export function inTurn(
  work: (state: State, open: () => boolean) => Promise<void>,
  { command, failed = complain }: { command?: Command; failed?: (error: unknown) => void } = {},
): Promise<void> {
  endTrial();
  const { shot, variant, open: here } = editTarget();
  if (shot === undefined) return Promise.resolve();
  if (here()) editing.setState((each) => ({ saving: each.saving + 1 }));
  waiting += 1;
  const run = async () => {
    const state = here() ? openShot.getState().state : newestOf(shot);
    if (!state) return;
    try {
      if (variant === undefined || state.variant === variant) await work(state, here);
      else await within(variant, state, (other) => work(other, here));
    } catch (error) {
      if (here()) await recover(error, state, failed, command);
      else note("error", `“${state.document.name}”, a change was not kept: ${explain(error)}`);
    } finally {
      if (here()) editing.setState((each) => ({ saving: each.saving - 1 }));
    }
  };
  // After success or failure of a change, the next one runs.
  const turn = queue
    .then(run)
    .catch(failed)
    .finally(() => {
      waiting -= 1;
    });
  queue = turn;
  return turn;
}

/** Does something in the variant in which it was asked for, while another one is shown. */
async function within(variant: string, shown: State, work: (state: State) => Promise<void>): Promise<void> {
  const other = await fetchShot(shown.slug, variant);
  if (other.variant !== variant) throw new Error("the variant of this change was deleted; undo restores it");
  adopt(other);
  try {
    await work(other);
  } finally {
    adopt(await fetchShot(shown.slug, shown.variant));
  }
}

/** After a fault: the present state is fetched, and a change that came too late can be put on top of it. */
async function recover(
  error: unknown,
  state: State,
  failed: (error: unknown) => void,
  command?: Command,
): Promise<void> {
  if (!(error instanceof Problem && error.status === 409)) {
    failed(error);
    refresh();
    return;
  }
  const theirs = String(error.details.current_label ?? "a change");
  const there = await fetchShot(state.slug, state.variant);
  adopt(there);
  if (there.variant !== state.variant) {
    const text = `Another window deleted this variant (“${theirs}”). Your change was not applied.`;
    note("error", text, command && { title: "Bring it back and apply", run: () => bringBack(command, state) });
    return;
  }
  const text = `Another window changed this shot first (“${theirs}”). You now see that version; your change was not applied.`;
  note("error", text, command && { title: "Apply my change anyway", run: () => onTop(command, state) });
}

/** Takes back the deletion of a variant, if that was done last, and keeps a command there that came too late. */
function bringBack(command: Command, { id, variant }: State): void {
  if (openShot.getState().state?.id !== id) return;
  void inTurn(async (state) => {
    const params = { path: { shot: state.slug } };
    const step = (base: State, path: "/api/shots/{shot}/undo" | "/api/shots/{shot}/redo") =>
      take<State>(client.POST(path, { params, body: { base_revision: base.revision }, headers: envelope(variant) }));
    const undone = await step(state, "/api/shots/{shot}/undo");
    if (undone.variant === variant) adopt(undone);
    else {
      adopt(await step(undone, "/api/shots/{shot}/redo"));
      note("info", "The variant was not deleted last; undo until it returns, then repeat the change");
    }
  }).then(() => {
    if (openShot.getState().state?.variant === variant) void commit(command);
  });
}

/** Keeps a command that came too late, if its own shot is the one that is open. */
function onTop(command: Command, { id, document }: State): void {
  if (openShot.getState().state?.id === id) void commit(command);
  else note("info", `That change belongs to “${document.name}”, which is not open; nothing was changed`);
}
