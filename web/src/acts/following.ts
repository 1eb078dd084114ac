/** Targets of an operator or the hold on the framing. */
import { client, take } from "../api/client";
import type { State } from "../api/types";
import { commit, inTurn } from "../stores/editing";
import { adopt } from "../stores/openShot";
import { transport } from "../stores/transport";
import { type TargetRequest, targetOf } from "./targets";

/** From a frame on; from the beginning when null. */
type Following = TargetRequest & { frame: number | null };

/** Follows something; `point` is what the lens looks at now. */
export async function follow(at: string, { frame, ...asked }: Following): Promise<void> {
  const seen_at = Math.round(transport.getState().frame);
  if (asked.choice === "point") return commit({ type: "follow_point", at, seen_at, frame });
  const found = targetOf(asked);
  if ("target" in found) return commit({ type: "follow_target", at, frame, target: found.target });
  return inTurn(async ({ slug, revision }) => {
    const params = { path: { shot: slug } };
    const body = { base_revision: revision, at, frame, ...found };
    adopt(await take<State>(client.POST("/api/shots/{shot}/follow", { params, body })));
  });
}

export function moveChange(at: string, frame: number, to_frame: number): Promise<void> {
  return commit({ type: "follow_other", at, frame, to_frame });
}

export function dropChange(at: string, frame: number): void {
  void commit({ type: "follow_other", at, frame, to_frame: null });
}
