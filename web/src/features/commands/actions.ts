/** THE TABLE of actions: the keyboard and the command list both read it. */
import { commit } from "../../stores/editing";
import { layersOf, openShot } from "../../stores/openShot";
import { selectPins, view } from "../../stores/view";
import { removeClip } from "../clip-board";
import { removeCues } from "../cues";
import { moveFrames } from "../lanes";
import { keysAt } from "../move-board";
import { type Action, chosenIds, shotNow } from "./action";
import { LAYERING } from "./layering";
import { MOVING } from "./moving";
import { PLAYING } from "./playing";
import { RIGGING } from "./rigging";
import { VIEWING } from "./viewing";

function selectAll(): void {
  const { state } = openShot.getState();
  if (!state) return;
  const { board, pinsOf } = view.getState();
  if (board === "move") selectPins(moveFrames(state.document, pinsOf), pinsOf);
  else view.setState({ layers: layersOf(state).map((layer) => layer.id) });
}

function removeSelected(): void {
  const { board, pins } = view.getState();
  const shot = shotNow();
  if (!shot) return;
  const layers = chosenIds();
  const keys = board === "move" && pins.length ? keysAt(shot, pins) : [];
  if (keys.length) void commit({ type: "delete_keys", keys });
  else if (board === "clip") removeClip();
  else if (board === "cue") removeCues();
  else if (board === "layer" && layers.length) void commit({ type: "remove_layers", layers });
}

const SELECTED: Action[] = [
  { id: "select-all", title: "Select all layers, or all pins of the move", keys: ["Ctrl+A"], run: selectAll },
  {
    id: "remove",
    title: "Delete the selected pins, or remove the selected layers, clip or cues",
    keys: ["Delete", "Backspace"],
    run: removeSelected,
  },
];

export const ACTIONS: Action[] = [...PLAYING, ...LAYERING, ...MOVING, ...RIGGING, ...SELECTED, ...VIEWING];
