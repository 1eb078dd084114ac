/** State of the view: selection, time window, guides. Nothing here is part of the shot. */
import { createStore } from "zustand/vanilla";
import type { AxisName, MoveField } from "../api/types";

/** Display of a set piece. */
export type PieceLook = "shown" | "box" | "hidden";

/** A number whose formula is looked at: where it is, what it is called, how it is shown. */
export type FormulaPlace = { at: string; title: string; unit: string; times: number; digits: number };

/** Purpose of the preset dialog: saving the selected clip or layers, or changing the texts of one. */
export type PresetForm = { save: "clip"; clip: string } | { save: "layers"; layers: string[] } | { change: string };

/** Section of a mount on the board. */
export type MountPart = "pose" | "rig" | "springs" | "operator" | "ride" | "glass";

/** Sheets over the lanes. */
export type SheetName = "curves" | "table" | "presets" | "checks";

export type CopiedPose = { of: string; position: [number, number, number]; angles: [number, number, number] };

export type View = {
  /** Subject of the board: the selected layer, or the camera's move. */
  board: "layer" | "move" | "clip" | "cue" | "plate";
  /** The plate that is selected. */
  plate: string | null;
  /** The clip that the board shows. */
  clip: string | null;
  /** Clips whose layers are shown, by lane. */
  open: Record<string, string>;
  layer: string | null;
  /** All selected layers; `layer` is the one the board shows. */
  layers: string[];
  /** The part of the rig that the move board works on; the last when none is named. */
  mount: string | null;
  /** Section of that part on the board. */
  part: MountPart;
  /** The rig has a row a mount, or one row in all. */
  rigOpen: boolean;
  /** A pose in the world that was copied, and what it was of. */
  pose: CopiedPose | null;
  /** The number whose formula is in the burn-in strip of the board. */
  formula: FormulaPlace | null;
  /** The number that was gone to last. */
  number: FormulaPlace | null;
  /** Sheet over the lanes: curves or the frame table of the selection, or the presets. */
  sheet: SheetName | null;
  /** Frames whose pins on the move lane are selected. */
  pins: number[];
  /** The mount whose pins they are; those of all when none is named. */
  pinsOf: string | null;
  /** Changes of the move set keys even on numbers that have none yet. */
  keyEveryChange: boolean;
  /** Dragging in the Viewfinder flies the camera. */
  flying: boolean;
  /** Target of the next click on the set: the subject, or the position of the selected cues. */
  picking: false | "subject" | "cue";
  /** The cues that are selected. */
  cues: string[];
  /** The subject glows in both views. */
  tinted: boolean;
  /** Set pieces that are not plainly shown. */
  looks: Record<string, PieceLook>;
  /** The frame to go to is being typed. */
  goingTo: boolean;
  /** The area just outside the frame is shown too. */
  around: boolean;
  /** Boards show the axes too that are folded away while they do not move. */
  allAxes: boolean;
  axes: AxisName[];
  window: [number, number];
  /** Frames that the frame table shows just now, while it is open. */
  rowsInView: [number, number] | null;
  /** The move is seen without its motion layers. */
  bypass: boolean;
  /** And stays so when the key is let go. */
  bare: boolean;
  /** Dragging over the selected layer or clip draws its weight or amount. */
  drawing: boolean;
  /** Group of numbers in the curves and the table, by its title; the first one by default. */
  sheetGroup: string | null;
  guides: { thirds: boolean; centre: boolean; safe: boolean };
  /** A close look at a part of the picture: how many times larger, and where its middle is (0 to 1). */
  loupe: { zoom: number; x: number; y: number };
  /** Numbers of the move that placing the camera leaves alone. */
  locks: MoveField[];
  scribble: boolean;
  /** Numbers over the pictures. */
  readings: boolean;
  night: boolean;
  /** The views are drawn with fewer pixels, for slow machines. */
  light: boolean;
  /** Rows of layers are compact, or tall; by their number until chosen. */
  compact: boolean | null;
  /** Rarely used settings are shown on the board. */
  more: boolean;
  dialog: "export" | "import" | "commands" | "history" | "shot" | "dial" | "preset" | "origin" | "variants" | null;
  presetForm: PresetForm | null;
  /** The dial that the dialog changes; a new one when none is named. */
  dial: string | null;
  importFile: File | null;
};

const NIGHT = "zittern.night";
const LIGHT = "zittern.light";
const COMPACT = "zittern.compact";
const MORE = "zittern.more";
const READINGS = "zittern.readings";

/** State per shot, with the values of a newly opened one. */
export const FRESH = {
  board: "layer",
  plate: null,
  clip: null,
  open: {},
  layer: null,
  layers: [],
  mount: null,
  pinsOf: null,
  formula: null,
  number: null,
  picking: false,
  cues: [],
  axes: [],
  pins: [],
  flying: false,
  loupe: { zoom: 1, x: 0.5, y: 0.5 },
  bypass: false,
  bare: false,
  drawing: false,
  goingTo: false,
  sheet: null,
  sheetGroup: null,
  part: "pose",
  keyEveryChange: false,
  locks: [],
  looks: {},
  dialog: null,
  dial: null,
  presetForm: null,
  importFile: null,
} satisfies Partial<View>;

export const view = createStore<View>(() => ({
  ...FRESH,
  rigOpen: false,
  pose: null,
  tinted: false,
  around: false,
  allAxes: false,
  window: [1, 240],
  rowsInView: null,
  guides: { thirds: true, centre: false, safe: true },
  scribble: true,
  readings: localStorage.getItem(READINGS) !== "no",
  night: localStorage.getItem(NIGHT) === "yes",
  light: localStorage.getItem(LIGHT) === "yes",
  compact: { yes: true, no: false }[localStorage.getItem(COMPACT) ?? ""] ?? null,
  more: localStorage.getItem(MORE) === "yes",
}));

/** Selects pins: of one mount, which the board then shows, or of the whole rig. */
export function selectPins(pins: number[], mount: string | null = null): void {
  const shown = mount ? { mount } : {};
  view.setState({ board: "move", pins, pinsOf: mount, formula: null, ...shown });
}

/** Shows a mount on the board, and on wish a certain part of it. */
export function selectMount(mount: string, part: MountPart = view.getState().part): void {
  view.setState({ board: "move", mount, part, pins: [], pinsOf: mount, formula: null });
}

export function toggleNight(): void {
  const night = !view.getState().night;
  localStorage.setItem(NIGHT, night ? "yes" : "no");
  view.setState({ night });
}

export function toggleLight(): void {
  const light = !view.getState().light;
  localStorage.setItem(LIGHT, light ? "yes" : "no");
  view.setState({ light });
}

export function toggleReadings(): void {
  const readings = !view.getState().readings;
  localStorage.setItem(READINGS, readings ? "yes" : "no");
  view.setState({ readings });
}

export function setCompact(compact: boolean): void {
  localStorage.setItem(COMPACT, compact ? "yes" : "no");
  view.setState({ compact });
}

export function setMore(more: boolean): void {
  localStorage.setItem(MORE, more ? "yes" : "no");
  view.setState({ more });
}

/** The move without its motion layers, for as long as something is held. */
export function seeBare(held: boolean): void {
  view.setState(({ bare }) => ({ bypass: held || bare }));
}

/** The same until it is requested again. */
export function latchBare(): void {
  view.setState(({ bare }) => ({ bare: !bare, bypass: !bare }));
}

export function openImport(file: File | null): void {
  view.setState({ dialog: "import", importFile: file });
}

export function openPresetForm(presetForm: PresetForm): void {
  view.setState({ dialog: "preset", presetForm });
}
