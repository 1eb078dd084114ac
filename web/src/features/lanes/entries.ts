/** What the lanes are given to show. */
import type { ComponentType } from "react";
import type { SheetName } from "../../stores/view";

/** A kind of row: over the layers, or under them. It is there when it has something to show. */
export type RowEntry = { id: string; place: "above" | "below"; Row: ComponentType };

/** What is marked on the ruler. */
export type MarkEntry = { id: string; Marks: ComponentType<{ width: number }> };

/** What lies over the lanes; what has a title is offered beside the ruler. `alone`: rows over and under it fold away meanwhile. */
export type SheetEntry = { id: SheetName; title: string | null; Sheet: ComponentType; alone?: boolean };
