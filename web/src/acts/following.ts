/** What an operator or the hold on the framing follows. */
import { client, take } from "../api/client";
import type { State } from "../api/types";
import { commit, inTurn } from "../stores/editing";
import { adopt } from "../stores/openShot";
import { transport } from "../stores/transport";

/** `subject`, `point` (what the lens looks at now), `mount:ID`, `object:NAME`. */
export type Chosen = string;

type Following = {
  /** From a frame on; from the beginning when null. */
  frame: number | null;
  choice: Chosen;
  /** The middle of both. */
  other: Chosen | null;
};

type Plain = { kind: "subject" } | { kind: "mount"; mount: string };

const OBJECT = "object:";
const MOUNT = "mount:";

const plain = (choice: Chosen): Plain =>
  choice.startsWith(MOUNT) ? { kind: "mount", mount: choice.slice(MOUNT.length) } : { kind: "subject" };

/** Follows something; where an object of the set goes, the server says. */
export async function follow(at: string, { frame, choice, other }: Following): Promise<void> {
  const seen_at = Math.round(transport.getState().frame);
  if (choice === "point") return commit({ type: "follow_point", at, seen_at, frame });
  const objects = [choice, ...(other ? [other] : [])].filter((each) => each.startsWith(OBJECT));
  const [object] = objects;
  if (object === undefined) {
    const target = other ? { kind: "middle" as const, one: plain(choice), other: plain(other) } : plain(choice);
    return commit({ type: "follow_target", at, frame, target });
  }
  const rest = [choice, other].find((each) => each && each !== object) ?? null;
  const names = objects.map((each) => each.slice(OBJECT.length));
  return inTurn(async (state) => {
    const params = { path: { shot: state.slug } };
    const between = rest && !rest.startsWith(OBJECT) ? plain(rest) : null;
    const body = { base_revision: state.revision, at, frame, objects: names, between };
    adopt(await take<State>(client.POST("/api/shots/{shot}/follow", { params, body })));
  });
}

export function moveChange(at: string, frame: number, to_frame: number): Promise<void> {
  return commit({ type: "follow_other", at, frame, to_frame });
}

export function dropChange(at: string, frame: number): void {
  void commit({ type: "follow_other", at, frame, to_frame: null });
}
