/** THE TABLE of actions: the keyboard and the command list both read it. */
import type { Command, Layer, SourceKind } from "../../api/types";
import { note } from "../../stores/notes";
import { selectedLayers, selectLayer } from "../../stores/selection";
import { commit, findLayer, flip, layersOf, redo, session, undo } from "../../stores/session";
import { seek, step, togglePlay, transport } from "../../stores/transport";
import { openImport, selectPins, toggleNight, view } from "../../stores/view";
import { moveFrames } from "../lanes";
import { keyHere, keysAt } from "../move-board";

export type Action = { id: string; title: string; keys: string[]; available?: () => boolean; run: () => void };

const chosen = () => findLayer(session.getState().state, view.getState().layer);

function onLayers(make: (ids: string[]) => Command): () => void {
  return () => {
    const ids = selectedLayers().map((layer) => layer.id);
    if (ids.length) void commit(make(ids));
  };
}

const add = (source: SourceKind) => () => void commit({ type: "add_layer", source }, selectNewest);

/** Selects the layer that an edit has just put on top. */
export function selectNewest(state: { document: { clips?: { layers?: { id: string }[] }[] } }): void {
  const layers = (state.document.clips ?? []).flatMap((clip) => clip.layers ?? []);
  const newest = layers.at(-1);
  if (newest) selectLayer(newest.id);
}

const flipChosen = (field: "mute" | "solo") => () => flip(selectedLayers(), field);

function selectAll(): void {
  const { state } = session.getState();
  const { board } = view.getState();
  if (!state) return;
  if (board === "move") selectPins(moveFrames(state.document));
  else view.setState({ layers: layersOf(state).map((layer) => layer.id) });
}

function removeSelected(): void {
  const { board, pins } = view.getState();
  const { state } = session.getState();
  if (!state) return;
  if (board === "move") {
    const keys = pins.length ? keysAt(state.document, pins) : [];
    if (keys.length) void commit({ type: "delete_keys", keys });
  } else onLayers((layers) => ({ type: "remove_layers", layers }))();
}

/** Moves the selected pins by a frame. */
function nudge(by: number): void {
  const { pins } = view.getState();
  const { state } = session.getState();
  const keys = state && pins.length ? keysAt(state.document, pins) : [];
  if (!keys.length) return;
  void commit({ type: "move_keys", keys, by_frames: by, by_value: 0, copy_keys: false });
  selectPins(pins.map((frame) => frame + by));
}

const CLIPBOARD = "zittern.layers";

function copyLayers(): void {
  const layers = selectedLayers();
  if (!layers.length) return;
  localStorage.setItem(CLIPBOARD, JSON.stringify(layers));
  const what = layers.length === 1 ? `“${layers[0]?.name}” is` : `${layers.length} layers are`;
  note("info", `${what} copied; Ctrl V puts ${layers.length === 1 ? "it" : "them"} into any shot`);
}

function pasteLayers(): void {
  const kept = localStorage.getItem(CLIPBOARD);
  if (!kept) note("info", "Nothing is copied yet: select a layer and press Ctrl C");
  else void commit({ type: "paste_layers", layers: JSON.parse(kept) as Layer[] }, selectNewest);
}

/** Moves the selected layer within its clip. */
function reorder(by: number): void {
  const layer = chosen();
  const clip = session.getState().state?.document.clips.find((each) => each.layers.some(({ id }) => id === layer?.id));
  if (!layer || !clip) return;
  const index = clip.layers.findIndex(({ id }) => id === layer.id) + by;
  if (index >= 0 && index < clip.layers.length) void commit({ type: "move_layer", layer: layer.id, index });
}

/** Plays between the first and the last selected pin, or all of the shot again. */
function loopPins(): void {
  const { pins } = view.getState();
  transport.setState({ loop: pins.length > 1 ? [Math.ceil(Math.min(...pins)), Math.floor(Math.max(...pins))] : null });
}

const spanOf = (layers: string[]) => ({ at: layers.map((id) => `layer:${id}`), by_frames: 0, whole: false });

function toggleGuides(): void {
  view.setState(({ guides }) => {
    const none = !guides.thirds && !guides.centre && !guides.safe;
    return { guides: { thirds: none, centre: false, safe: none } };
  });
}

function toggleGuide(name: "thirds" | "centre" | "safe"): void {
  view.setState(({ guides }) => ({ guides: { ...guides, [name]: !guides[name] } }));
}

function flipSheet(sheet: "curves" | "table"): void {
  view.setState((state) => ({ sheet: state.sheet === sheet ? null : sheet }));
}

export const ACTIONS: Action[] = [
  { id: "play", title: "Play or pause", keys: ["Space"], run: togglePlay },
  { id: "back", title: "One frame back", keys: ["ArrowLeft"], run: () => step(-1) },
  { id: "on", title: "One frame on", keys: ["ArrowRight"], run: () => step(1) },
  { id: "back-second", title: "Ten frames back", keys: ["Shift+ArrowLeft"], run: () => step(-10) },
  { id: "on-second", title: "Ten frames on", keys: ["Shift+ArrowRight"], run: () => step(10) },
  { id: "first", title: "First frame", keys: ["Home"], run: () => seek(transport.getState().first) },
  { id: "last", title: "Last frame", keys: ["End"], run: () => seek(transport.getState().last) },
  {
    id: "loop",
    title: "Loop on or off",
    keys: ["L"],
    run: () => transport.setState((state) => ({ looping: !state.looping })),
  },
  {
    id: "bare",
    title: "See the bare move (hold)",
    keys: ["B"],
    run: () => view.setState((state) => ({ bypass: !state.bypass })),
  },
  { id: "key", title: "Set a key on the move", keys: ["K"], run: keyHere },
  {
    id: "fly",
    title: "Fly in the Viewfinder on or off",
    keys: ["V"],
    run: () => view.setState((state) => ({ flying: !state.flying, board: "move" })),
  },
  {
    id: "pick",
    title: "Pick a point of the set as the subject",
    keys: ["P"],
    run: () => view.setState((state) => ({ picking: !state.picking, board: "move" })),
  },
  { id: "history", title: "History …", keys: ["Ctrl+H"], run: () => view.setState({ dialog: "history" }) },
  { id: "undo", title: "Undo", keys: ["Ctrl+Z"], run: () => void undo() },
  { id: "redo", title: "Redo", keys: ["Ctrl+Shift+Z", "Ctrl+Y"], run: () => void redo() },
  { id: "handheld", title: "Add handheld feel", keys: ["H"], run: () => void commit({ type: "add_handheld" }) },
  { id: "add-noise", title: "Add noise layer", keys: [], run: add("noise") },
  { id: "add-wave", title: "Add wave layer", keys: [], run: add("wave") },
  { id: "add-drift", title: "Add drift layer", keys: [], run: add("drift") },
  { id: "add-tremor", title: "Add tremor layer", keys: [], run: add("tremor") },
  { id: "add-breath", title: "Add breath layer", keys: [], run: add("breath") },
  { id: "add-cycle", title: "Add cycle layer", keys: [], run: add("cycle") },
  { id: "add-keys", title: "Add keys layer", keys: [], run: add("keys") },
  {
    id: "mute",
    title: "Mute the selected layers",
    keys: ["M"],
    available: () => chosen() !== null,
    run: flipChosen("mute"),
  },
  {
    id: "solo",
    title: "Solo the selected layers",
    keys: ["S"],
    available: () => chosen() !== null,
    run: flipChosen("solo"),
  },
  {
    id: "seeds",
    title: "New random start for the selected layers",
    keys: ["N"],
    available: () => chosen() !== null,
    run: onLayers((layers) => ({ type: "new_seeds", layers })),
  },
  {
    id: "duplicate",
    title: "Duplicate the selected layers",
    keys: ["Ctrl+D"],
    available: () => chosen() !== null,
    run: onLayers((layers) => ({ type: "duplicate_layers", layers, keep_seed: false })),
  },
  {
    id: "remove",
    title: "Delete the selected pins, or remove the selected layers",
    keys: ["Delete"],
    run: removeSelected,
  },
  { id: "select-all", title: "Select all layers, or all pins of the move", keys: ["Ctrl+A"], run: selectAll },
  {
    id: "whole-span",
    title: "Selected layers over the whole shot",
    keys: [],
    available: () => chosen() !== null,
    run: onLayers((layers) => ({ type: "set_span", ...spanOf(layers), whole: true })),
  },
  {
    id: "span-start",
    title: "Selected layers start here",
    keys: ["["],
    available: () => chosen() !== null,
    run: onLayers((layers) => ({ type: "set_span", ...spanOf(layers), first_frame: transport.getState().frame })),
  },
  {
    id: "span-end",
    title: "Selected layers end here",
    keys: ["]"],
    available: () => chosen() !== null,
    run: onLayers((layers) => ({ type: "set_span", ...spanOf(layers), last_frame: transport.getState().frame })),
  },
  {
    id: "fit",
    title: "Show the whole shot in the lanes",
    keys: ["F"],
    run: () => view.setState({ window: [transport.getState().first, transport.getState().last] }),
  },
  { id: "nudge-back", title: "Move the selected pins a frame back", keys: [","], run: () => nudge(-1) },
  { id: "nudge-on", title: "Move the selected pins a frame on", keys: ["."], run: () => nudge(1) },
  {
    id: "curves",
    title: "Curves of what is selected, or back to the lanes",
    keys: ["C"],
    run: () => flipSheet("curves"),
  },
  {
    id: "table",
    title: "Frame table of what is selected, or back to the lanes",
    keys: ["T"],
    run: () => flipSheet("table"),
  },
  {
    id: "lanes",
    title: "Back to the lanes",
    keys: ["Escape"],
    run: () => view.setState({ sheet: null, flying: false, picking: false }),
  },
  {
    id: "around",
    title: "Show what lies outside the frame, or not",
    keys: ["O"],
    run: () => view.setState((state) => ({ around: !state.around })),
  },
  {
    id: "copy",
    title: "Copy the selected layers",
    keys: ["Ctrl+C"],
    available: () => chosen() !== null,
    run: copyLayers,
  },
  { id: "paste", title: "Paste layers, from another shot too", keys: ["Ctrl+V"], run: pasteLayers },
  {
    id: "up",
    title: "Move the selected layer up",
    keys: ["Ctrl+ArrowUp"],
    available: () => chosen() !== null,
    run: () => reorder(1),
  },
  {
    id: "down",
    title: "Move the selected layer down",
    keys: ["Ctrl+ArrowDown"],
    available: () => chosen() !== null,
    run: () => reorder(-1),
  },
  { id: "loop-here", title: "Loop between the selected pins", keys: ["Shift+L"], run: loopPins },
  { id: "guides", title: "All guides on or off", keys: ["G"], run: toggleGuides },
  { id: "thirds", title: "Thirds on or off", keys: [], run: () => toggleGuide("thirds") },
  { id: "centre", title: "Centre cross on or off", keys: [], run: () => toggleGuide("centre") },
  { id: "safe", title: "Safe area on or off", keys: [], run: () => toggleGuide("safe") },
  {
    id: "whole",
    title: "Whole picture again after a close look",
    keys: ["0"],
    run: () => view.setState({ loupe: { zoom: 1, x: 0.5, y: 0.5 } }),
  },
  {
    id: "scribble",
    title: "Scribble on or off",
    keys: [],
    run: () => view.setState((state) => ({ scribble: !state.scribble })),
  },
  { id: "night", title: "Light or dark paper", keys: [], run: toggleNight },
  { id: "import", title: "Bring in a camera path …", keys: ["I"], run: () => openImport(null) },
  { id: "export", title: "Export …", keys: ["E"], run: () => view.setState({ dialog: "export" }) },
  { id: "commands", title: "All commands …", keys: ["Ctrl+K", "?"], run: () => view.setState({ dialog: "commands" }) },
];
