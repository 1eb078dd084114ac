/** Which layers are selected, and which places a change of one of them goes to. */
import type { Layer, State } from "../api/types";
import { findLayer, layersOf, session } from "./session";
import { view } from "./view";

/** Selects a layer alone, adds or takes it away, or selects all from the last one to it. */
export function selectLayer(id: string | null, how: "only" | "toggle" | "range" = "only"): void {
  const { layer, layers } = view.getState();
  const base = { board: "layer" as const, axes: [], pins: [] };
  if (id === null || how === "only") {
    view.setState({ ...base, layer: id, layers: id === null ? [] : [id] });
  } else if (how === "toggle") {
    const kept = layers.includes(id) ? layers.filter((each) => each !== id) : [...layers, id];
    view.setState({ ...base, layers: kept, layer: kept.at(-1) ?? null });
  } else {
    const { state } = session.getState();
    const ids = state ? layersOf(state).map((each) => each.id) : [];
    const [a, b] = [ids.indexOf(layer ?? id), ids.indexOf(id)].sort((x, y) => x - y);
    view.setState({ ...base, layers: ids.slice(a, (b ?? 0) + 1), layer: id });
  }
}

/** How a click selects, by its keys. */
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
  const { state } = session.getState();
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
  const { state } = session.getState();
  const kind = findLayer(state, id)?.source.kind;
  const fits = (each: string) => !field.startsWith("source.") || findLayer(state, each)?.source.kind === kind;
  return idsAlike(id)
    .filter(fits)
    .map((each) => `layer:${each}.${field}`);
}

/** Selects the layer that an edit has just put on top. */
export function selectNewest(state: State): void {
  const newest = layersOf(state).at(-1);
  if (newest) selectLayer(newest.id);
}

/** Selects the slow one of the two layers that a handheld feel has just put on top. */
export function selectSway(state: State): void {
  const sway = layersOf(state).at(-2);
  if (sway) selectLayer(sway.id);
}
