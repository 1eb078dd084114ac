/** Selected layers, and the addresses that a change of one of them affects. */
import type { Layer, State } from "../api/types";
import { commit } from "./editing";
import { note } from "./notes";
import { clipOf, clipsOf, findLayer, layersOf, openShot } from "./openShot";
import { between } from "./pressed";
import { serverTables } from "./serverTables";
import { view } from "./view";

/** The selection: one kind at a time. Missing parts are not selected. */
export type Selection =
  | { kind: "layers"; ids: string[]; shown: string }
  | { kind: "clip"; id: string }
  | { kind: "keys"; frames: number[]; of: string | null }
  | { kind: "move" }
  | { kind: "mount"; id: string }
  | { kind: "cues"; ids: string[] }
  | { kind: "plate"; id: string }
  | { kind: "nothing" };

const NOTHING: Selection = { kind: "nothing" };

export function selection(): Selection {
  const { state } = openShot.getState();
  const { board, layer, clip, pins, pinsOf, cues, plate } = view.getState();
  if (!state) return NOTHING;
  if (board === "clip") {
    return clip && clipsOf(state).some(({ id }) => id === clip) ? { kind: "clip", id: clip } : NOTHING;
  }
  if (board === "plate")
    return plate && state.document.plates.some(({ id }) => id === plate) ? { kind: "plate", id: plate } : NOTHING;
  if (board === "cue") return cues.length ? { kind: "cues", ids: cues } : NOTHING;
  if (board === "move") {
    if (pins.length) return { kind: "keys", frames: pins, of: pinsOf };
    return pinsOf ? { kind: "mount", id: pinsOf } : { kind: "move" };
  }
  const ids = selectedLayers().map((each) => each.id);
  return layer && ids.includes(layer) ? { kind: "layers", ids, shown: layer } : NOTHING;
}

/** Nothing is selected any more. */
export function selectNothing(): void {
  view.setState({
    board: "layer",
    layer: null,
    layers: [],
    clip: null,
    plate: null,
    cues: [],
    pins: [],
    pinsOf: null,
    axes: [],
  });
}

/** Selects a layer alone, adds or takes it away, or selects all from the last one to it. */
export function selectLayer(id: string | null, how: "only" | "toggle" | "range" = "only"): void {
  const { state: shot } = openShot.getState();
  const clip = shot && id !== null ? clipOf(shot, id) : undefined;
  if (clip) open(clip.id);
  const { layer, layers } = view.getState();
  const base = { board: "layer" as const, axes: [], pins: [], formula: null };
  if (id === null || how === "only") {
    view.setState({ ...base, layer: id, layers: id === null ? [] : [id] });
  } else if (how === "toggle") {
    const nextLayers = layers.includes(id) ? layers.filter((each) => each !== id) : [...layers, id];
    view.setState({ ...base, layers: nextLayers, layer: nextLayers.at(-1) ?? null });
  } else {
    const { state } = openShot.getState();
    const ids = state ? layersOf(state).map((each) => each.id) : [];
    view.setState({ ...base, layers: between(ids, layer ?? id, id), layer: id });
  }
}

/** Shows a clip's layers under its lane. */
function open(clip: string): void {
  const lane = openShot.getState().state?.document.lanes.find(({ clips }) => clips.some(({ id }) => id === clip));
  if (lane) view.setState((state) => ({ open: { ...state.open, [lane.id]: clip } }));
}

/** Selects a clip: the board shows it, and its lane its layers. */
export function selectClip(clip: string): void {
  view.setState({ board: "clip", clip, axes: [], pins: [], formula: null });
  open(clip);
}

/** Effect of a click on the selection, by its modifier keys. */
export function howToSelect(event: {
  shiftKey: boolean;
  ctrlKey: boolean;
  metaKey: boolean;
}): "only" | "toggle" | "range" {
  if (event.shiftKey) return "range";
  return event.ctrlKey || event.metaKey ? "toggle" : "only";
}

/** The selected layers, from the bottom up. */
export function selectedLayers(): Layer[] {
  const { state } = openShot.getState();
  const { layers } = view.getState();
  return state ? layersOf(state).filter((each) => layers.includes(each.id)) : [];
}

/** Ids that a change of this layer goes to: all selected ones when it is among them. */
export function idsAlike(id: string): string[] {
  const ids = selectedLayers().map((each) => each.id);
  return ids.includes(id) ? ids : [id];
}

/** Addresses that a change at one goes to: the same of all selected layers, of a source only where it is of the same kind. */
export function placesAlike(at: string): string[] {
  const [, id, field] = /^layer:([^.]+)\.(.+)$/.exec(at) ?? [];
  if (!id || !field) return [at];
  const { state } = openShot.getState();
  const kind = findLayer(state, id)?.source.kind;
  const fits = (each: string) => !field.startsWith("source.") || findLayer(state, each)?.source.kind === kind;
  return idsAlike(id)
    .filter(fits)
    .map((each) => `layer:${each}.${field}`);
}

/** Ids of the layers, clips, cues, mounts or plates that an edit made, from the bottom up. */
export function madeBy({ made }: State, kind: "layer" | "clip" | "cue" | "mount" | "plate"): string[] {
  return made.filter((address) => address.startsWith(`${kind}:`)).map((address) => address.slice(kind.length + 1));
}

/** Selects the clip that an edit made, the topmost of several. */
export function selectMadeClip(state: State): void {
  const clip = madeBy(state, "clip").at(-1);
  if (clip) selectClip(clip);
}

/** Selects the layers that an edit made; the topmost is on the board. */
export function selectMade(state: State): void {
  const layers = madeBy(state, "layer");
  selectLayer(layers.at(-1) ?? null);
  view.setState({ layers });
}

/** Adds a feel of a camera held by hand, and selects its slow layer; where there is one, it is selected. */
export function addHandheld(): void {
  const { state } = openShot.getState();
  const { handheld } = serverTables().forms;
  const there = state ? layersOf(state).filter(({ name }) => handheld.includes(name)) : [];
  if (there.length < handheld.length) {
    putHandheld();
    return;
  }
  selectLayer(there[0]?.id ?? null);
  note("info", "The handheld feel is there already, and is selected now", { title: "Add another", run: putHandheld });
}

function putHandheld(): void {
  void commit({ type: "add_handheld" }, { kept: (state) => selectLayer(madeBy(state, "layer")[0] ?? null) });
}
