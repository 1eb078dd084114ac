/** Every action by name, with its key; the keyboard; the searchable list. */
export { ACTIONS } from "./actions";
export { CommandList } from "./CommandList";
export { useKeyboard } from "./useKeyboard";
