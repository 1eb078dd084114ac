/** The shot that is open: its state on the server, edits one after another, undo and redo. */
import { createStore } from "zustand/vanilla";
import { client, Problem, take } from "../api/client";
import type { Clip, Command, Layer, State } from "../api/types";
import { feed, forgetMotion } from "./motion";
import { complain, note } from "./notes";
import { pause, transport } from "./transport";
import { view } from "./view";

export type Session = {
  state: State | null;
  missing: string | null;
  saving: number;
  trying: boolean;
  /** Values by address that were set and not yet answered. */
  pending: Record<string, unknown>;
};

export const session = createStore<Session>(() => ({
  state: null,
  missing: null,
  saving: 0,
  trying: false,
  pending: {},
}));

let queue: Promise<unknown> = Promise.resolve();

/** The command being tried on while something is dragged. */
let trying: Command | null = null;

/** The older revision whose motion is shown, while somebody looks at it. */
let looking: number | null = null;

/** Counts the shots that were opened: an answer for one that was left is dropped. */
let visit = 0;
/** Slug or id of the shot that is open, or being opened. */
let opened = "";

export async function openShot(slug: string): Promise<void> {
  pause();
  forgetMotion();
  visit += 1;
  const mine = visit;
  opened = slug;
  trying = null;
  looking = null;
  session.setState({ state: null, missing: null, saving: 0, trying: false, pending: {} });
  try {
    const state = await take<State>(client.GET("/api/shots/{shot}", { params: { path: { shot: slug } } }));
    if (mine !== visit) return;
    view.setState({
      board: "layer",
      layer: null,
      layers: [],
      mount: null,
      picking: false,
      axes: [],
      pins: [],
      flying: false,
      loupe: { zoom: 1, x: 0.5, y: 0.5 },
      window: [state.document.first_frame, state.document.last_frame],
      bypass: false,
    });
    transport.setState({ frame: state.document.first_frame, loop: null });
    adopt(state);
  } catch (error) {
    if (mine === visit) session.setState({ missing: error instanceof Error ? error.message : String(error) });
  }
}

/** Takes a state from the server as the present one and asks for its motion; one of another shot than the open one is dropped. */
export function adopt(state: State): void {
  if (state.slug !== opened && state.id !== opened) return;
  const before = session.getState().state?.document;
  session.setState({ state });
  const { first_frame: first, last_frame: last, fps } = state.document;
  const { frame } = transport.getState();
  transport.setState({ first, last, fps: fps.num / (fps.den ?? 1), frame: Math.min(Math.max(frame, first), last) });
  if (before && (before.first_frame !== first || before.last_frame !== last)) view.setState({ window: [first, last] });
  keepSelection(state);
  feed(state.slug, []).catch(complain);
}

/** Lets go of what is no longer there. */
function keepSelection(state: State): void {
  const { layer, layers, mount } = view.getState();
  const ids = layersOf(state).map((each) => each.id);
  const kept = layers.filter((id) => ids.includes(id));
  const shown = layer && ids.includes(layer) ? layer : (kept.at(-1) ?? ids[0] ?? null);
  if (shown !== layer) view.setState({ layer: shown, axes: [] });
  if (kept.length !== layers.length || (shown && !kept.includes(shown)))
    view.setState({ layers: shown && !kept.includes(shown) ? [shown] : kept });
  if (mount && !state.document.mounts.some((each) => each.id === mount)) view.setState({ mount: null });
}

/** Clips of all lanes, from the bottom up. */
export function clipsOf(state: State): Clip[] {
  return state.document.lanes.flatMap((lane) => lane.clips);
}

/** Layers from the bottom up. */
export function layersOf(state: State): Layer[] {
  return clipsOf(state).flatMap((clip) => clip.layers);
}

export function findLayer(state: State | null, id: string | null): Layer | null {
  return (state && layersOf(state).find((layer) => layer.id === id)) ?? null;
}

/** Shows what a command would do, without keeping it. */
export function preview(command: Command): void {
  const { state } = session.getState();
  trying = command;
  if (!session.getState().trying) session.setState({ trying: true });
  if (state) feed(state.slug, [command]).catch(complain);
}

/** Asks again for what is shown now, for example when other curves are wanted. */
export function refresh(): void {
  endPreview();
}

/** Drops what is tried on. */
export function cancelPreview(): void {
  trying = null;
  session.setState({ trying: false });
  endPreview();
}

const READINGS_AFTER_MS = 120;
let waiting = 0;

/** Readings follow the frame once it rests: while playing they would only flicker. */
transport.subscribe((now, before) => {
  if (now.playing || now.frame === before.frame) return;
  clearTimeout(waiting);
  waiting = window.setTimeout(endPreview, READINGS_AFTER_MS);
});

/** Asks again for what is kept, unless something is being tried on. */
function endPreview(): void {
  const { state } = session.getState();
  if (state && trying === null && looking === null) feed(state.slug, []).catch(complain);
}

/** Commits a command as one revision; commands go one after another. `onFault` is told what is wrong in place of the foot of the page. */
export function commit(
  command: Command,
  then?: (state: State) => void,
  onFault?: (error: unknown) => void,
): Promise<void> {
  const settled = expect(command);
  return inTurn(
    async (state) => {
      const path = { shot: state.slug };
      const body = { base_revision: state.revision, command };
      adopt(await take<State>(client.POST("/api/shots/{shot}/edits", { params: { path }, body })));
      const after = session.getState().state;
      if (after && then) then(after);
    },
    command,
    onFault,
  ).finally(settled);
}

/** Shows plainly set values at once, and their motion while they are still being kept. Returns what ends that. */
function expect(command: Command): () => void {
  const { state, saving } = session.getState();
  if (command.type !== "set_values") return () => undefined;
  const values = Object.fromEntries(command.values.map(({ at, value }) => [at, value]));
  session.setState(({ pending }) => ({ pending: { ...pending, ...values } }));
  if (state && saving === 0) feed(state.slug, [command]).catch(() => undefined);
  return () =>
    session.setState(({ pending }) => ({
      pending: Object.fromEntries(Object.entries(pending).filter(([at, value]) => values[at] !== value)),
    }));
}

/** Mutes or solos layers, or takes it back: all as the last one is not. */
export function flip(layers: Layer[], field: "mute" | "solo"): void {
  const last = layers.at(-1);
  if (!last) return;
  const { pending } = session.getState();
  const value = !(pending[`layer:${last.id}.${field}`] ?? last[field]);
  void commit({ type: "set_values", values: layers.map(({ id }) => ({ at: `layer:${id}.${field}`, value })) });
}

export function undo(): Promise<void> {
  return travel("/api/shots/{shot}/undo");
}

export function redo(): Promise<void> {
  return travel("/api/shots/{shot}/redo");
}

/** Marks an object of the set as the subject, or none. */
export function markSubject(object: string | null, point?: [number, number, number]): Promise<void> {
  return inTurn(async (state) => {
    const params = { path: { shot: state.slug } };
    const { frame } = transport.getState();
    const body = { base_revision: state.revision, object, point_m: point ?? null, frame };
    adopt(await take<State>(client.POST("/api/shots/{shot}/subject", { params, body })));
  });
}

/** Makes any revision the present one; later ones stay. */
export function goTo(revision: number): Promise<void> {
  looking = null;
  return inTurn(async (state) => {
    const params = { path: { shot: state.slug } };
    const body = { base_revision: state.revision, revision };
    adopt(await take<State>(client.POST("/api/shots/{shot}/goto", { params, body })));
  });
}

/** Shows the motion of an older revision, or of the present one again. */
export function lookAt(revision: number | null): void {
  const { state } = session.getState();
  if (looking === null && revision === null) return;
  looking = revision;
  if (state) feed(state.slug, [], revision).catch(complain);
}

function travel(path: "/api/shots/{shot}/undo" | "/api/shots/{shot}/redo"): Promise<void> {
  return inTurn(async (state) => {
    const params = { path: { shot: state.slug } };
    adopt(await take<State>(client.POST(path, { params, body: { base_revision: state.revision } })));
  });
}

function inTurn(
  work: (state: State) => Promise<void>,
  command?: Command,
  onFault: (error: unknown) => void = complain,
): Promise<void> {
  trying = null;
  const mine = visit;
  session.setState((each) => ({ saving: each.saving + 1, trying: false }));
  const run = async () => {
    const { state } = session.getState();
    if (!state || mine !== visit) return;
    try {
      await work(state);
    } catch (error) {
      if (mine === visit) await recover(error, state, command, onFault);
    } finally {
      if (mine === visit) session.setState((each) => ({ saving: each.saving - 1 }));
    }
  };
  const turn = queue.then(run);
  queue = turn;
  return turn;
}

/** After a fault: the present state is fetched, and a change that came too late can be put on top of it. */
async function recover(
  error: unknown,
  state: State,
  command: Command | undefined,
  onFault: (error: unknown) => void,
): Promise<void> {
  if (error instanceof Problem && error.status === 409) {
    const theirs = String(error.details.current_label ?? "a change");
    adopt(await take<State>(client.GET("/api/shots/{shot}", { params: { path: { shot: state.slug } } })));
    const again = command ? { title: "Apply mine on top", run: () => void commit(command) } : undefined;
    note(
      "error",
      `Another window changed this shot first (“${theirs}”). Its state is shown now; yours was not applied.`,
      again,
    );
    return;
  }
  onFault(error);
  endPreview();
}
