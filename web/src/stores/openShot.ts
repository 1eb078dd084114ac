/** The shot that is open: its state as the server has it. */
import { createStore } from "zustand/vanilla";
import { client, take } from "../api/client";
import { aboutVariant, envelope } from "../api/envelope";
import type { Clip, Layer, State } from "../api/types";
import { feed, forgetMotion } from "./motion";
import { complain } from "./notes";
import { pause, transport } from "./transport";
import { FRESH, view } from "./view";

export type OpenShot = {
  state: State | null;
  /** Why it cannot be opened. */
  missing: string | null;
};

const NONE: OpenShot = { state: null, missing: null };

export const openShot = createStore<OpenShot>(() => NONE);

/** The variant of a shot in this window; it is restored after a reload. */
const SHOWN = "zittern.variant.";
/** Its playhead when the page was left: once, after a reload. */
const PLAYHEAD = "zittern.playhead.";

window.addEventListener("pagehide", () => {
  const { state } = openShot.getState();
  if (state) sessionStorage.setItem(PLAYHEAD + state.slug, String(transport.getState().frame));
});

function playheadLeft(slug: string): number | null {
  const stored = sessionStorage.getItem(PLAYHEAD + slug);
  sessionStorage.removeItem(PLAYHEAD + slug);
  return stored === null ? null : Number(stored);
}

/** A shot through a variant; through the main one where that is gone, or none is named. */
export function fetchShot(shot: string, variant: string | null): Promise<State> {
  const params = { path: { shot } };
  return take<State>(client.GET("/api/shots/{shot}", { params, headers: envelope(variant) }));
}

/** Counts the shots that were opened: an answer for one that was left is dropped. */
let visits = 0;
/** Slug or id of the shot that is open, or being opened. */
let openSlug = "";
const resets: (() => void)[] = [];
/** The newest states that came, by id: those of shots that were left too, for changes that still wait. */
const newest = new Map<string, State>();
const MAX_NEWEST = 4;

/** Has something put back whenever a shot is opened. */
export function whenOpened(reset: () => void): void {
  resets.push(reset);
}

/** A question that is false for good once another shot was opened. */
export function stillOpen(): () => boolean {
  const mine = visits;
  return () => mine === visits;
}

/** The shot that was open last, and is while none is. */
let lately: State | null = null;

/** The target of a change: the open shot; while another one is being opened, the one before. */
export function editTarget(): { shot?: string; variant?: string; open: () => boolean } {
  const { state } = openShot.getState();
  const { id: shot, variant } = state ?? lately ?? {};
  return { shot, variant, open: state ? stillOpen() : () => false };
}

/** The newest known state of a shot. */
export function newestOf(id: string): State | undefined {
  return newest.get(id);
}

function newer(state: State): State {
  const known = newest.get(state.id);
  const found = known && known.revision > state.revision ? known : state;
  newest.delete(state.id);
  newest.set(state.id, found);
  for (const id of [...newest.keys()].slice(0, -MAX_NEWEST)) newest.delete(id);
  return found;
}

export async function visit(slug: string): Promise<void> {
  pause();
  forgetMotion();
  visits += 1;
  openSlug = slug;
  aboutVariant(null);
  const here = stillOpen();
  openShot.setState(NONE);
  for (const reset of resets) reset();
  try {
    const state = await fetchShot(slug, sessionStorage.getItem(SHOWN + slug));
    if (!here()) return;
    const { first_frame: first, last_frame: last } = state.document;
    view.setState({ ...FRESH, window: [first, last] });
    transport.setState({ frame: playheadLeft(state.slug) ?? first, loop: null });
    adopt(newer(state));
    selectFirst(state);
  } catch (error) {
    if (here()) openShot.setState({ missing: error instanceof Error ? error.message : String(error) });
  }
}

/** Takes a state from the server as the present one and asks for its motion; one of another shot than the open one is dropped. */
export function adopt(state: State): void {
  newer(state);
  if (state.slug !== openSlug && state.id !== openSlug) return;
  const was = openShot.getState().state;
  lately = state;
  const before = was?.document;
  aboutVariant(state.variant);
  sessionStorage.setItem(SHOWN + state.slug, state.variant);
  if (was && was.variant !== state.variant) selectCounterparts(was, state);
  openShot.setState({ state });
  const { first_frame: first, last_frame: last, fps } = state.document;
  const { frame, loop } = transport.getState();
  const within = (each: number) => Math.min(Math.max(each, first), last);
  transport.setState({
    first,
    last,
    fps: fps.num / (fps.den ?? 1),
    frame: within(frame),
    loop: loop && within(loop[0]) < within(loop[1]) ? [within(loop[0]), within(loop[1])] : null,
  });
  if (before && (before.first_frame !== first || before.last_frame !== last)) view.setState({ window: [first, last] });
  pruneSelection(state);
  feed(state.slug, []).catch(complain);
}

/** The board of a shot that was just opened shows its lowest layer. */
function selectFirst(state: State): void {
  const first = layersOf(state)[0]?.id ?? null;
  view.setState({ layer: first, layers: first ? [first] : [] });
}

/** The selection in another variant: the clip and the layers of the same names. */
function selectCounterparts(before: State, after: State): void {
  const { layer, layers, clip } = view.getState();
  const there = <T extends { id: string; name: string }>(id: string | null, from: T[], to: T[]): string | null => {
    const one = from.find((each) => each.id === id);
    return (one && to.find(({ name }) => name === one.name)?.id) ?? null;
  };
  const layerThere = (id: string | null) => there(id, layersOf(before), layersOf(after));
  view.setState({
    clip: there(clip, clipsOf(before), clipsOf(after)),
    layer: layerThere(layer),
    layers: layers.flatMap((each) => layerThere(each) ?? []),
  });
}

/** Removes missing parts from the selection; a missing layer is replaced by another. */
function pruneSelection(state: State): void {
  const { board, layer, layers, mount, clip } = view.getState();
  if (!clip && board === "clip") view.setState({ board: "layer" });
  if (clip && !clipsOf(state).some(({ id }) => id === clip)) view.setState({ clip: null, board: "layer" });
  const ids = layersOf(state).map((each) => each.id);
  const keptLayers = layers.filter((id) => ids.includes(id));
  const isMissing = layer !== null && !ids.includes(layer);
  const shown = isMissing ? (keptLayers.at(-1) ?? ids[0] ?? null) : layer;
  if (shown !== layer) view.setState({ layer: shown, axes: [] });
  if (keptLayers.length !== layers.length || (shown && !keptLayers.includes(shown)))
    view.setState({ layers: shown && !keptLayers.includes(shown) ? [shown] : keptLayers });
  if (mount && !state.document.mounts.some((each) => each.id === mount)) view.setState({ mount: null });
}

/** Clips of all lanes, from the bottom up. */
export function clipsOf(state: State): Clip[] {
  return state.document.lanes.flatMap((lane) => lane.clips);
}

/** Layers from the bottom up. */
/** The clip of a layer. */
export function clipOf(state: State, layer: string): Clip | undefined {
  return clipsOf(state).find(({ layers }) => layers.some(({ id }) => id === layer));
}

export function layersOf(state: State): Layer[] {
  return clipsOf(state).flatMap((clip) => clip.layers);
}

export function findLayer(state: State | null, id: string | null): Layer | null {
  return (state && layersOf(state).find((layer) => layer.id === id)) ?? null;
}
