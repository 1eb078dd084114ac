/** Contents of the lanes. */
import type { ComponentType } from "react";
import type { SheetName } from "../../stores/view";

/** A kind of row: over the layers, or under them. It is there when it has something to show. */
export type RowEntry = { id: string; place: "above" | "below"; Row: ComponentType };

/** Marks on the ruler. */
export type MarkEntry = { id: string; Marks: ComponentType<{ width: number }> };

/** Sheets over the lanes; those with a title have a button next to the ruler. `alone`: rows above and below it fold. */
export type SheetEntry = { id: SheetName; title: string | null; Sheet: ComponentType; alone?: boolean };
