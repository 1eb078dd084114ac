/** THE TABLE of edits of time: what each asks for, and the command that it becomes. */
import type { Command } from "../../api/types";
import { limitsOf } from "../../shared/fields";
import { selection } from "../../stores/selection";
import type { TimeDraft, TimeKind } from "../../stores/timeEdit";

type NumberOf = "frame" | "first" | "last" | "frames" | "by" | "easeIn" | "easeOut";

export type DraftNumber = { field: NumberOf; label: string; unit: string; limits: [number, number] };

type Kind = {
  id: TimeKind;
  title: string;
  told: string;
  numbers: DraftNumber[];
  /** Whether keyed segments may hold or run through, and whether shakes may stay unchanged. */
  gap?: boolean;
  runs?: boolean;
  available?: () => boolean;
  command: (draft: TimeDraft) => Command;
  /** The affected range of the lanes after the edit, and its effect. */
  mark: (draft: TimeDraft) => { from: number; to: number; look: "new" | "gone" | "changed" };
};

const FREE: [number, number] = [-1e6, 1e7];
const frame: DraftNumber = { field: "frame", label: "at frame", unit: "", limits: FREE };
const first: DraftNumber = { field: "first", label: "from frame", unit: "", limits: FREE };
const last: DraftNumber = { field: "last", label: "to frame", unit: "", limits: FREE };
const draftRange = (draft: TimeDraft) => ({ first_frame: draft.first, last_frame: draft.last });

export const KINDS: Kind[] = [
  {
    id: "insert",
    title: "insert",
    told: "Shifts later frames",
    numbers: [{ field: "frames", label: "frames", unit: "f", limits: limitsOf("insert_time.frames") }, frame],
    gap: true,
    runs: true,
    command: ({ frame: at, frames, gap, runs }) => ({ type: "insert_time", frame: at, frames, gap, runs }),
    mark: ({ frame: at, frames }) => ({ from: at, to: at + frames, look: "new" }),
  },
  {
    id: "take-out",
    title: "take out",
    told: "Removes keys, cues and clips in the range; closes the gap",
    numbers: [first, last],
    runs: true,
    command: (draft) => ({ type: "take_out_time", ...draftRange(draft), runs: draft.runs }),
    mark: (draft) => ({ from: draft.first, to: draft.last + 1, look: "gone" }),
  },
  {
    id: "stretch",
    title: "stretch",
    told: "Retimes keys, not shake",
    numbers: [first, last, { field: "frames", label: "lasts", unit: "f", limits: limitsOf("stretch_time.frames") }],
    runs: true,
    command: (draft) => ({ type: "stretch_time", ...draftRange(draft), frames: draft.frames, runs: draft.runs }),
    mark: (draft) => ({ from: draft.first, to: draft.first + draft.frames, look: "changed" }),
  },
  {
    id: "shift",
    title: "shift after",
    told: "Later: keys run through the new frames. Earlier: the frames before go",
    numbers: [{ field: "by", label: "by", unit: "f", limits: limitsOf("shift_after.by_frames") }, frame],
    runs: true,
    command: ({ frame: at, by, runs }) => ({ type: "shift_after", frame: at, by_frames: by, runs }),
    mark: ({ frame: at, by }) => ({
      from: Math.min(at, at + by),
      to: Math.max(at, at + by),
      look: by > 0 ? "new" : "gone",
    }),
  },
  {
    id: "ease",
    title: "ease",
    told: "Eases keys; duration unchanged",
    numbers: [
      first,
      last,
      { field: "easeIn", label: "in", unit: "%", limits: [0, 100] },
      { field: "easeOut", label: "out", unit: "%", limits: [0, 100] },
    ],
    command: (draft) => ({
      type: "ease_time",
      ...draftRange(draft),
      ease_in: draft.easeIn / 100,
      ease_out: draft.easeOut / 100,
    }),
    mark: (draft) => ({ from: draft.first, to: draft.last + 1, look: "changed" }),
  },
  {
    id: "reverse",
    title: "reverse",
    told: "Reverses path and shakes; steps, hits, takes, springs, operator and set continue forwards",
    numbers: [first, last],
    command: (draft) => ({ type: "reverse_time", ...draftRange(draft) }),
    mark: (draft) => ({ from: draft.first, to: draft.last + 1, look: "changed" }),
  },
  {
    id: "slip",
    title: "slip clip",
    told: "Slip content; clip stays",
    numbers: [{ field: "by", label: "by", unit: "f", limits: limitsOf("slip_clip.by_frames") }],
    available: () => selection().kind === "clip",
    command: ({ by }) => ({ type: "slip_clip", clip: slipped() ?? "", by_frames: by }),
    mark: ({ frame: at }) => ({ from: at, to: at, look: "changed" }),
  },
];

function slipped(): string | null {
  const now = selection();
  return now.kind === "clip" ? now.id : null;
}

export function kindOf(draft: TimeDraft): Kind {
  const found = KINDS.find(({ id }) => id === draft.kind);
  if (!found) throw new Error(`no edit of time is called ${draft.kind}`);
  return found;
}
