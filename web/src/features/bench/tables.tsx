/** THE TABLES of the Bench: a new kind of sheet, row, board or dialog is a folder and one line here. */
import type { ComponentType } from "react";
import type { State } from "../../api/types";
import { ImportDialog } from "../../parts/ImportDialog";
import type { View } from "../../stores/view";
import { AxisBoard } from "../axis-board";
import { CheckSheet, FindingMarks } from "../checks";
import { ClipBoard } from "../clip-board";
import { CommandList } from "../commands";
import { CueBoard, CueRow } from "../cues";
import { CurveSheet, TableSheet } from "../curves";
import { DialDialog, DialRow } from "../dials";
import { HistoryDialog } from "../history";
import { type MarkEntry, RigRows, type RowEntry, type SheetEntry } from "../lanes";
import { MoveBoard } from "../move-board";
import { CoverageBand, PlateBoard } from "../plates";
import { OriginDialog, PresetDialog, PresetSheet } from "../presets";
import { ShotDialog } from "../shot-form";
import { TimeEditRow } from "../time-edit";
import { ExportDialog } from "../transfer";
import { VariantsDialog } from "../variants";

/** Sheets over the lanes. */
export const SHEETS: SheetEntry[] = [
  { id: "curves", title: "curves", Sheet: CurveSheet },
  { id: "table", title: "table", Sheet: TableSheet },
  { id: "presets", title: null, Sheet: PresetSheet, alone: true },
  { id: "checks", title: null, Sheet: CheckSheet },
];

/** Marks on the ruler. */
export const MARKS: MarkEntry[] = [
  { id: "coverage", Marks: CoverageBand },
  { id: "findings", Marks: FindingMarks },
];

/** Rows over and under the layers, from above. */
export const ROWS: RowEntry[] = [
  { id: "time", place: "above", Row: TimeEditRow },
  { id: "cues", place: "above", Row: CueRow },
  { id: "rig", place: "above", Row: RigRows },
  { id: "dials", place: "below", Row: DialRow },
];

/** The board of what is selected. */
export const BOARDS: Record<View["board"], ComponentType> = {
  move: MoveBoard,
  clip: ClipBoard,
  cue: CueBoard,
  layer: AxisBoard,
  plate: PlateBoard,
};

type DialogOf = ComponentType<{ state: State }>;

export const DIALOGS: Record<NonNullable<View["dialog"]>, DialogOf> = {
  export: ExportDialog,
  import: ({ state }) => <ImportDialog state={state} projectSlug={state.project_slug} />,
  shot: ({ state }) => <ShotDialog shot={state.document} />,
  history: HistoryDialog,
  commands: CommandList,
  preset: ({ state }) => <PresetDialog shot={state.document} />,
  origin: OriginDialog,
  dial: ({ state }) => <DialDialog shot={state.document} />,
  variants: VariantsDialog,
};
