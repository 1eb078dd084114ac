/** THE TABLE of actions: the keyboard and the command list both read it. */

import { removeClip } from "../../acts/clips";
import { removeCues } from "../../acts/cues";
import { moveFrames } from "../../acts/moveFrames";
import { keysAt } from "../../acts/moving";
import { removePlate } from "../../acts/plates";
import { commit } from "../../stores/editing";
import { layersOf, openShot } from "../../stores/openShot";
import { selection } from "../../stores/selection";
import { selectPins, view } from "../../stores/view";
import { type Action, shotNow } from "./action";
import { LAYERING } from "./layering";
import { MOVING } from "./moving";
import { PLAYING } from "./playing";
import { RIGGING } from "./rigging";
import { TIMING } from "./timing";
import { VARIANTS } from "./variants";
import { VIEWING } from "./viewing";

function selectAll(): void {
  const { state } = openShot.getState();
  if (!state) return;
  const { board, pinsOf } = view.getState();
  if (board === "move") selectPins(moveFrames(state.document, pinsOf), pinsOf);
  else {
    const layers = layersOf(state).map((layer) => layer.id);
    view.setState({ board: "layer", layers, layer: view.getState().layer ?? layers[0] ?? null });
  }
}

function removeSelected(): void {
  const now = selection();
  const shot = shotNow();
  if (!shot) return;
  const keys = now.kind === "keys" ? keysAt(shot, now.frames) : [];
  if (keys.length) void commit({ type: "delete_keys", keys });
  else if (now.kind === "clip") removeClip();
  else if (now.kind === "cues") removeCues();
  else if (now.kind === "plate") removePlate();
  else if (now.kind === "layers") void commit({ type: "remove_layers", layers: now.ids });
}

const SELECTED: Action[] = [
  { id: "select-all", title: "Select all layers, or all keys of the move", keys: ["Ctrl+A"], run: selectAll },
  {
    id: "remove",
    title: "Delete the selected keys, or remove the selected layers, clip, cues or plate",
    keys: ["Delete", "Backspace"],
    available: () => ["keys", "clip", "cues", "layers", "plate"].includes(selection().kind),
    run: removeSelected,
  },
];

export const ACTIONS: Action[] = [
  ...PLAYING,
  ...TIMING,
  ...LAYERING,
  ...MOVING,
  ...RIGGING,
  ...SELECTED,
  ...VARIANTS,
  ...VIEWING,
];
