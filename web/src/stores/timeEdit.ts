/** The edit of time that is being chosen, before it is made. */
import { createStore } from "zustand/vanilla";
import { openShot, whenOpened } from "./openShot";
import { transport } from "./transport";

export type TimeKind = "insert" | "take-out" | "stretch" | "shift" | "ease" | "reverse" | "slip";

export type TimeDraft = {
  kind: TimeKind;
  /** Position of an insertion or shift. */
  frame: number;
  /** The range that the edit is about. */
  first: number;
  last: number;
  /** Number of inserted frames, or new length of the range. */
  frames: number;
  /** Shift of the later content, or of a clip's content. */
  by: number;
  gap: "hold" | "through";
  runs: "on" | "keep";
  easeIn: number;
  easeOut: number;
};

export const timeEdit = createStore<{ draft: TimeDraft | null }>(() => ({ draft: null }));

whenOpened(() => timeEdit.setState({ draft: null }));

/** Start one: about the loop range; without one an ease is about the whole shot, and all else about a second. */
export function chooseTimeEdit(kind: TimeKind): void {
  if (!openShot.getState().state) return;
  const { frame, loop, first, last, fps } = transport.getState();
  const here = Math.round(frame);
  const second = Math.max(1, Math.round(fps));
  const [from, to] = loop ?? (kind === "ease" ? [first, last] : [here, Math.min(last, here + second - 1)]);
  const frames = kind === "stretch" ? 2 * (to - from + 1) : second;
  const storedDraft = timeEdit.getState().draft;
  timeEdit.setState({
    draft: {
      kind,
      frame: here,
      first: from,
      last: to,
      frames,
      by: kind === "slip" ? Math.round(second / 4) : second,
      gap: storedDraft?.gap ?? "hold",
      runs: storedDraft?.runs ?? "on",
      easeIn: 50,
      easeOut: 50,
    },
  });
}

export function changeDraft(changes: Partial<TimeDraft>): void {
  timeEdit.setState(({ draft }) => ({ draft: draft && { ...draft, ...changes } }));
}

export function endTimeEdit(): void {
  timeEdit.setState({ draft: null });
}
