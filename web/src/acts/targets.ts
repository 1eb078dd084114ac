/** Targets and positions as menus show them. */
import type { Target } from "../api/types";

/** `subject`, `point` (of each place its own), `mount:ID`, `object:NAME`. */
export type Chosen = string;

/** One thing, or the middle of two. */
export type TargetRequest = { choice: Chosen; other: Chosen | null };

type Plain = { kind: "subject" } | { kind: "mount"; mount: string };

/** Paths of set objects are known only by the server; all others are known here. */
export type Found = { target: Target } | { objects: string[]; between: Plain | null };

const OBJECT = "object:";
const MOUNT = "mount:";

const plain = (choice: Chosen): Plain =>
  choice.startsWith(MOUNT) ? { kind: "mount", mount: choice.slice(MOUNT.length) } : { kind: "subject" };

export function targetOf({ choice, other }: TargetRequest): Found {
  const choices = [choice, ...(other ? [other] : [])];
  const objects = choices.filter((each) => each.startsWith(OBJECT)).map((each) => each.slice(OBJECT.length));
  const [rest] = choices.filter((each) => !each.startsWith(OBJECT));
  if (objects.length) return { objects, between: rest === undefined ? null : plain(rest) };
  return { target: other ? { kind: "middle", one: plain(choice), other: plain(other) } : plain(choice) };
}
