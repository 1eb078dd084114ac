/** Actions on layers and their axes. */

import { addClip, bakeBlend, duplicateClip, flattenBlend, saveClip, splitClip } from "../../acts/clips";
import { cueHere, exportCues } from "../../acts/cues";
import { choosePictures } from "../../acts/plates";
import type { AxisName, Command, Layer } from "../../api/types";
import { AXES, onlyAxes, ROTATIONS, TRANSLATIONS } from "../../shared/axes";
import { makeDial } from "../../shared/number";
import { commit, flip } from "../../stores/editing";
import { note } from "../../stores/notes";
import { clipOf, clipsOf, openShot } from "../../stores/openShot";
import { addHandheld, selectedLayers, selection, selectMade } from "../../stores/selection";
import { serverTables } from "../../stores/serverTables";
import { transport } from "../../stores/transport";
import { openPresetForm, view } from "../../stores/view";
import { type Action, chosen, chosenIds, withLayer } from "./action";

/** Synonyms of sources of motion. */
const SYNONYMS: Record<string, string> = {
  noise: "shake random handheld",
  wave: "sine oscillation sway swell",
  drift: "wander slow float",
  tremor: "nervous fine shake",
  breath: "breathing chest",
  gait: "footsteps walk run steps bob",
  road: "ground vehicle car bumps wheels",
  hit: "impact blow explosion bang",
  cycle: "loop drawn repeat",
  keys: "hand drawn animated",
  take: "recorded capture",
  formula: "expression script maths",
};
const ALL = [...AXES];
const withClip = () => selection().kind === "clip";
const withBlend = () => {
  const now = selection();
  const { state } = openShot.getState();
  return now.kind === "clip" && Boolean(state && clipsOf(state).find(({ id }) => id === now.id)?.blend);
};
const withMount = () => selection().kind === "mount";
const CLIPBOARD = "zittern.layers";

/** Runs a command on all selected layers. */
const onLayers = (make: (ids: string[]) => Command) => () => {
  const ids = chosenIds();
  if (ids.length) void commit(make(ids));
};

/** Mutes or solos what is selected: layers, a mount, or a clip, which is only muted. */
function silence(field: "mute" | "solo"): void {
  const now = selection();
  const { state } = openShot.getState();
  if (now.kind === "layers") flip(selectedLayers(), field);
  if (!state || (now.kind !== "clip" && now.kind !== "mount")) return;
  const part = now.kind === "clip" ? clipsOf(state) : state.document.mounts;
  const one = part.find(({ id }) => id === now.id) as Record<string, unknown> | undefined;
  if (one) void commit({ type: "set_values", values: [{ at: `${now.kind}:${now.id}.${field}`, value: !one[field] }] });
}

/** The selected layers, or those of the selected clip. */
function layersOrClips(): string[] {
  const now = selection();
  const { state } = openShot.getState();
  if (now.kind !== "clip") return chosenIds();
  const clip = state && clipsOf(state).find(({ id }) => id === now.id);
  return clip ? clip.layers.map(({ id }) => id) : [];
}

function duplicate(): void {
  if (withClip()) duplicateClip(1);
  else void commit({ type: "duplicate_layers", layers: chosenIds(), keep_seed: false }, { kept: selectMade });
}

/** Sets a field of all selected layers by what the one on the board has. */
const set = (field: string, next: (layer: Layer) => unknown) => () => {
  const layer = chosen();
  if (!layer) return;
  const values = chosenIds().map((id) => ({ at: `layer:${id}.${field}`, value: next(layer) }));
  void commit({ type: "set_values", values });
};

/** Limits the selected layers, or the selected clip, to the loop range. */
function onlyHere(): void {
  const { loop } = transport.getState();
  const { board, clip } = view.getState();
  const at = board === "clip" && clip ? [`clip:${clip}`] : chosenIds().map((id) => `layer:${id}`);
  if (!loop) note("info", "Set a loop range first: Shift-drag in the ruler");
  else if (at.length) void commit({ type: "only_here", at, first_frame: loop[0], last_frame: loop[1] });
}

/** Takes a part of the span of all selected layers to the present frame. */
const span = (part: "first_frame" | "last_frame" | "ramp_in_until" | "ramp_out_from") => () => {
  const at = chosenIds().map((id) => `layer:${id}`);
  if (at.length) void commit({ type: "set_span", at, by_frames: 0, whole: false, [part]: transport.getState().frame });
};

function copyLayers(): void {
  const layers = withLayer() ? selectedLayers() : [];
  if (!layers.length) return;
  const what = layers.length === 1 ? `“${layers[0]?.name}”` : `${layers.length} layers`;
  try {
    localStorage.setItem(CLIPBOARD, JSON.stringify(layers));
  } catch {
    // The browser keeps some megabytes for a site; long takes need more.
    note("error", `Not copied: ${what} exceed what the browser stores. Save them as a preset and place that instead`);
    return;
  }
  note("info", `Copied ${what}; Ctrl V pastes ${layers.length === 1 ? "it" : "them"} into any shot`);
}

function pasteLayers(): void {
  const clipboard = localStorage.getItem(CLIPBOARD);
  if (!clipboard) note("info", "Nothing to paste: select a layer and press Ctrl C");
  else void commit({ type: "paste_layers", layers: JSON.parse(clipboard) as Layer[] }, { kept: selectMade });
}

/** Moves the selected layer within its clip. */
function reorder(by: number): void {
  const layer = chosen();
  const { state } = openShot.getState();
  const clip = state && layer && clipOf(state, layer.id);
  if (!clip) return;
  const index = clip.layers.findIndex(({ id }) => id === layer.id) + by;
  if (index >= 0 && index < clip.layers.length) void commit({ type: "move_layer", layer: layer.id, index });
}

/** Runs a command on the selected rows of the axis board; `least` of them have to be selected. */
const onAxes = (least: number, make: (layer: Layer, axes: AxisName[]) => Command) => ({
  available: () => withLayer() && view.getState().axes.length >= least,
  run: () => {
    const layer = chosen();
    const { axes } = view.getState();
    if (layer && axes.length >= least) void commit(make(layer, axes));
  },
});

const ofAxes = (layer: Layer, axes: AxisName[], field: "on" | "locked"): Command => ({
  type: "set_values",
  values: axes.map((axis) => ({
    at: `layer:${layer.id}.axes.${axis}.${field}`,
    value: !layer.axes[axes[0] ?? "pan"][field],
  })),
});

const action = (id: string, title: string, keys: string[], run: () => void): Action => ({
  id,
  title,
  keys,
  available: withLayer,
  run,
});

/** Active axes of the layer on the board. */
const only = (id: string, title: string, axes: readonly AxisName[]): Action =>
  action(id, title, [], () => {
    const layer = chosen();
    if (layer) void commit(onlyAxes(layer, axes));
  });

export const LAYERING: Action[] = [
  {
    id: "handheld",
    title: "Add handheld feel",
    also: "shake noise wobble",
    keys: ["H"],
    run: addHandheld,
  },
  ...serverTables().sources.map(({ kind }) => ({
    id: `add-${kind}`,
    title: `Add ${kind} layer`,
    also: SYNONYMS[kind],
    keys: [],
    run: () => void commit({ type: "add_layer", source: kind }, { kept: selectMade }),
  })),
  {
    id: "mute",
    title: "Mute the selected layers, clip or mount",
    keys: ["M"],
    available: () => withLayer() || withClip() || withMount(),
    run: () => silence("mute"),
  },
  {
    id: "solo",
    title: "Solo the selected layers or mount",
    keys: ["S"],
    available: () => withLayer() || withMount(),
    run: () => silence("solo"),
  },
  {
    id: "seeds",
    title: "New seeds for the selected layers, or all layers of the clip",
    keys: ["N"],
    available: () => layersOrClips().length > 0,
    run: () => void commit({ type: "new_seeds", layers: layersOrClips() }),
  },
  action(
    "stronger",
    "Swing ×1.5",
    [],
    onLayers((layers) => ({ type: "scale_swings", layers, factor: 1.5, axes: ALL })),
  ),
  action(
    "gentler",
    "Swing ×⅔",
    [],
    onLayers((layers) => ({ type: "scale_swings", layers, factor: 2 / 3, axes: ALL })),
  ),
  {
    id: "duplicate",
    title: "Duplicate the selected layers or clip",
    keys: ["Ctrl+D"],
    available: () => withLayer() || withClip(),
    run: duplicate,
  },
  action("copy", "Copy the selected layers", ["Ctrl+C"], copyLayers),
  { id: "paste", title: "Paste layers", keys: ["Ctrl+V"], run: pasteLayers },
  action("up", "Move the selected layer up", ["Ctrl+ArrowUp"], () => reorder(1)),
  action("down", "Move the selected layer down", ["Ctrl+ArrowDown"], () => reorder(-1)),
  action("span-start", "Start the selected layers here", ["["], span("first_frame")),
  action("span-end", "End the selected layers here", ["]"], span("last_frame")),
  action("ramp-in", "Ramp in the selected layers up to here", [], span("ramp_in_until")),
  action("ramp-out", "Ramp out the selected layers from here", [], span("ramp_out_from")),
  {
    id: "only-here",
    title: "Limit layers or clip to the loop range, with ramps",
    keys: ["Y"],
    available: () => withLayer() || withClip(),
    run: onlyHere,
  },
  action(
    "whole-span",
    "Extend the selected layers to the whole shot",
    [],
    onLayers((layers) => ({ type: "set_span", at: layers.map((id) => `layer:${id}`), by_frames: 0, whole: true })),
  ),
  {
    id: "draw",
    title: "Toggle drawing the weight of the layer, or the amount of the clip",
    also: "record perform paint by hand",
    keys: ["U"],
    available: () => withLayer() || withClip(),
    run: () => view.setState(({ drawing }) => ({ drawing: !drawing })),
  },
  action(
    "weight-key",
    "Key the weight of the selected layers here",
    ["W"],
    onLayers((layers) => ({
      type: "set_keys",
      keys: layers.map((id) => ({ at: `layer:${id}.weight`, frame: transport.getState().frame })),
    })),
  ),
  action(
    "mode",
    "Toggle add/replace of the selected layers",
    [],
    set("mode", (layer) => (layer.mode === "add" ? "replace" : "add")),
  ),
  action(
    "steady",
    "Toggle steady on screen",
    [],
    set("steady", (layer) => !layer.steady),
  ),
  {
    id: "dial-of",
    title: "Create dial from the last number used",
    keys: ["Shift+D"],
    available: () => view.getState().number !== null,
    run: () => {
      const { number } = view.getState();
      if (number) makeDial(number);
    },
  },
  { id: "cue", title: "Add cue at playhead (also while playing)", keys: ["Q"], run: cueHere },
  {
    id: "plates",
    title: "Add image plates …",
    also: "hang pictures image background painting parallax card",
    keys: [],
    run: choosePictures,
  },
  { id: "cues-out", title: "Export the cues as CSV", keys: [], run: exportCues },
  { id: "clip", title: "New clip, over the loop range or from here", keys: [], run: addClip },
  {
    id: "blend-bake",
    title: "Bake the selected blend to one clip at playhead",
    also: "morph mix",
    keys: [],
    available: withBlend,
    run: bakeBlend,
  },
  {
    id: "blend-flatten",
    title: "Flatten the selected blend to a keyed clip",
    also: "bake morph mix",
    keys: [],
    available: withBlend,
    run: flattenBlend,
  },
  { id: "clip-split", title: "Split the selected clip at playhead", keys: ["X"], available: withClip, run: splitClip },
  {
    id: "save-preset",
    title: "Save the selected clip or layers as a preset …",
    keys: ["J"],
    available: () => withLayer() || withClip(),
    run: () => (withClip() ? saveClip() : openPresetForm({ save: "layers", layers: chosenIds() })),
  },
  {
    id: "axes-copy",
    title: "Copy the first selected axis to the others, with new seeds",
    keys: [],
    ...onAxes(2, (layer, [model = "pan", ...to]) => ({ type: "copy_axis", layer: layer.id, axis: model, to })),
  },
  {
    id: "axes-link",
    title: "Link the selected axes to the first",
    keys: [],
    ...onAxes(2, (layer, [model = "pan", ...axes]) => ({ type: "link_axes", layer: layer.id, axes, to: model })),
  },
  {
    id: "axes-unlink",
    title: "Unlink the selected axes",
    keys: [],
    ...onAxes(1, (layer, axes) => ({ type: "link_axes", layer: layer.id, axes, to: null })),
  },
  {
    id: "axes-on",
    title: "Toggle the selected axes",
    keys: [],
    ...onAxes(1, (layer, axes) => ofAxes(layer, axes, "on")),
  },
  only("axes-rotations", "Rotations only: translations and zoom off", ROTATIONS),
  only("axes-translations", "Translations only: rotations and zoom off", TRANSLATIONS),
  only("axes-all", "All axes on", AXES),
  {
    id: "axes-lock",
    title: "Toggle lock of the selected axes",
    keys: [],
    ...onAxes(1, (layer, axes) => ofAxes(layer, axes, "locked")),
  },
];
