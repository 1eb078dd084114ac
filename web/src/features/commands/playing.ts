/** Actions of playing and going through time. */
import { seek, step, togglePlay, transport } from "../../stores/transport";
import { view } from "../../stores/view";
import type { Action } from "./action";

/** Plays between the first and the last selected pin, or all of the shot again. */
function loopPins(): void {
  const { pins } = view.getState();
  transport.setState({ loop: pins.length > 1 ? [Math.ceil(Math.min(...pins)), Math.floor(Math.max(...pins))] : null });
}

export const PLAYING: Action[] = [
  { id: "play", title: "Play or pause", keys: ["Space"], run: togglePlay },
  { id: "back", title: "Previous frame", keys: ["ArrowLeft"], repeats: true, run: () => step(-1) },
  { id: "on", title: "Next frame", keys: ["ArrowRight"], repeats: true, run: () => step(1) },
  { id: "back-second", title: "Back 10 frames", keys: ["Shift+ArrowLeft"], repeats: true, run: () => step(-10) },
  { id: "on-second", title: "Forward 10 frames", keys: ["Shift+ArrowRight"], repeats: true, run: () => step(10) },
  { id: "first", title: "First frame", keys: ["Home"], run: () => seek(transport.getState().first) },
  { id: "last", title: "Last frame", keys: ["End"], run: () => seek(transport.getState().last) },
  {
    id: "loop",
    title: "Toggle loop",
    keys: ["L"],
    run: () => transport.setState((state) => ({ looping: !state.looping })),
  },
  { id: "go", title: "Go to a frame …", keys: ["Ctrl+G"], run: () => view.setState({ goingTo: true }) },
  { id: "loop-here", title: "Loop between the selected keys", keys: ["Shift+L"], run: loopPins },
];
