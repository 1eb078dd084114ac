/** Dialogs that are open, the uppermost last. What has to be seen over them is put into it: all else cannot be reached. */
import { createStore } from "zustand/vanilla";

export const dialogs = createStore<{ open: HTMLElement[] }>(() => ({ open: [] }));
