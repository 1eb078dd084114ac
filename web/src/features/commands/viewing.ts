/** Actions of looking: views, guides, dialogs, steps back and forth. */

import { redo, undo } from "../../stores/history";
import { selectNothing } from "../../stores/selection";
import { fitPath } from "../../stores/stage";
import { toggleBlur } from "../../stores/stillFrame";
import { endTimeEdit, timeEdit } from "../../stores/timeEdit";
import { transport } from "../../stores/transport";
import {
  latchBare,
  openImport,
  type SheetName,
  setCompact,
  toggleLight,
  toggleNight,
  toggleReadings,
  view,
} from "../../stores/view";
import type { Action } from "./action";

function toggleGuides(): void {
  view.setState(({ guides }) => {
    const none = !guides.thirds && !guides.centre && !guides.safe;
    return { guides: { thirds: none, centre: false, safe: none } };
  });
}

function toggleGuide(name: "thirds" | "centre" | "safe"): void {
  view.setState(({ guides }) => ({ guides: { ...guides, [name]: !guides[name] } }));
}

function flipSheet(sheet: SheetName): void {
  view.setState((state) => ({ sheet: state.sheet === sheet ? null : sheet }));
}

/** One step back: from a sheet or a way of working, from selected axes, from what is selected. */
function back(): void {
  if (timeEdit.getState().draft) {
    endTimeEdit();
    return;
  }
  const { sheet, flying, picking, drawing, axes, pins } = view.getState();
  if (sheet || flying || picking || drawing) {
    view.setState({ sheet: null, sheetGroup: null, flying: false, picking: false, drawing: false });
  } else if (axes.length) view.setState({ axes: [] });
  else if (pins.length) view.setState({ pins: [] });
  else selectNothing();
}

const flip = (field: "around" | "scribble" | "tinted") => () => view.setState((state) => ({ [field]: !state[field] }));

export const VIEWING: Action[] = [
  { id: "undo", title: "Undo", keys: ["Ctrl+Z"], repeats: true, run: () => void undo() },
  { id: "redo", title: "Redo", keys: ["Ctrl+Shift+Z", "Ctrl+Y"], repeats: true, run: () => void redo() },
  {
    id: "history",
    title: "History …",
    also: "revisions versions earlier",
    keys: ["Ctrl+H"],
    run: () => view.setState({ dialog: "history" }),
  },
  {
    id: "shot",
    title: "Shot settings: name, frame rate, range, resolution, sensor, set …",
    keys: [],
    run: () => view.setState({ dialog: "shot" }),
  },
  {
    id: "dial",
    title: "New dial …",
    keys: ["D"],
    run: () => view.setState({ dialog: "dial", dial: null }),
  },
  { id: "compact", title: "Compact rows", keys: [], run: () => setCompact(true) },
  { id: "tall", title: "Tall rows", keys: [], run: () => setCompact(false) },
  {
    id: "bare",
    title: "Toggle the move without motion layers (hold B)",
    keys: ["Shift+B", "B"],
    run: latchBare,
  },
  {
    id: "curves",
    title: "Toggle curves",
    keys: ["C"],
    run: () => flipSheet("curves"),
  },
  {
    id: "table",
    title: "Toggle frame table",
    keys: ["T"],
    run: () => flipSheet("table"),
  },
  {
    id: "presets",
    title: "Browse presets",
    also: "library feels panic handheld",
    keys: ["R"],
    run: () => flipSheet("presets"),
  },
  {
    id: "lanes",
    title: "Back to the lanes; then clear the selection: axes first, then the rest",
    keys: ["Escape"],
    run: back,
  },
  {
    id: "fit",
    title: "Fit the whole shot in the lanes",
    keys: ["F"],
    run: () => view.setState({ window: [transport.getState().first, transport.getState().last] }),
  },
  {
    id: "checks",
    title: "Checks: what is wrong with this shot",
    also: "findings warnings errors problems lint validate coverage edges seam",
    keys: ["Z"],
    run: () => flipSheet("checks"),
  },
  { id: "around", title: "Toggle area outside the frame", keys: ["O"], run: flip("around") },
  {
    id: "blur",
    title: "Toggle motion blur while paused",
    also: "shutter exposure streak",
    keys: ["Shift+S"],
    run: toggleBlur,
  },
  { id: "guides", title: "Toggle all guides", keys: ["G"], run: toggleGuides },
  { id: "thirds", title: "Toggle thirds", keys: [], run: () => toggleGuide("thirds") },
  { id: "centre", title: "Toggle centre cross", keys: [], run: () => toggleGuide("centre") },
  { id: "safe", title: "Toggle safe area", keys: [], run: () => toggleGuide("safe") },
  {
    id: "whole",
    title: "Reset close look",
    keys: ["0"],
    run: () => view.setState({ loupe: { zoom: 1, x: 0.5, y: 0.5 } }),
  },
  { id: "readings", title: "Toggle readings over the views", keys: [], run: toggleReadings },
  { id: "fit-path", title: "Fit the whole path in the Set view", keys: ["Shift+F"], run: fitPath },
  { id: "scribble", title: "Toggle scribble", keys: [], run: flip("scribble") },
  { id: "tint", title: "Highlight subject", keys: [], run: flip("tinted") },
  { id: "pieces", title: "Show all pieces of the set", keys: [], run: () => view.setState({ looks: {} }) },
  { id: "night", title: "Toggle light/dark paper", keys: [], run: toggleNight },
  { id: "light", title: "Toggle lighter views (fewer pixels, for slow machines)", keys: [], run: toggleLight },
  {
    id: "import",
    title: "Import a camera path or a set …",
    also: "load gltf glb csv",
    keys: ["I"],
    run: () => openImport(null),
  },
  {
    id: "export",
    title: "Export …",
    also: "movie video mp4 webm png render preview gltf glb csv save bake",
    keys: ["E"],
    run: () => view.setState({ dialog: "export" }),
  },
  { id: "commands", title: "All commands …", keys: ["Ctrl+K", "?"], run: () => view.setState({ dialog: "commands" }) },
];
