/** What is looked at and how: selection, time window, guides. Nothing here is part of the shot. */
import { createStore } from "zustand/vanilla";
import type { AxisName } from "../api/types";

export type View = {
  layer: string | null;
  axes: AxisName[];
  window: [number, number];
  bypass: boolean;
  guides: boolean;
  scribble: boolean;
  night: boolean;
  dialog: "export" | "import" | "commands" | null;
  importFile: File | null;
};

const NIGHT = "zittern.night";

export const view = createStore<View>(() => ({
  layer: null,
  axes: [],
  window: [1, 240],
  bypass: false,
  guides: true,
  scribble: true,
  night: localStorage.getItem(NIGHT) === "yes",
  dialog: null,
  importFile: null,
}));

export function toggleNight(): void {
  const night = !view.getState().night;
  localStorage.setItem(NIGHT, night ? "yes" : "no");
  view.setState({ night });
}

export function openImport(file: File | null): void {
  view.setState({ dialog: "import", importFile: file });
}
