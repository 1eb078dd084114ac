/** Steps back and forth through the revisions of the open shot. */
import { client, take } from "../api/client";
import type { State } from "../api/types";
import { inTurn } from "./editing";
import { adopt } from "./openShot";
import { trying } from "./trying";

export function undo(): Promise<void> {
  return step("/api/shots/{shot}/undo");
}

export function redo(): Promise<void> {
  return step("/api/shots/{shot}/redo");
}

/** Makes any revision the present one; later ones stay. */
export function goTo(revision: number): Promise<void> {
  trying.setState({ revision: null });
  return inTurn(async (state) => {
    const params = { path: { shot: state.slug } };
    const body = { base_revision: state.revision, revision };
    adopt(await take<State>(client.POST("/api/shots/{shot}/goto", { params, body })));
  });
}

function step(path: "/api/shots/{shot}/undo" | "/api/shots/{shot}/redo"): Promise<void> {
  return inTurn(async (state) => {
    const params = { path: { shot: state.slug } };
    adopt(await take<State>(client.POST(path, { params, body: { base_revision: state.revision } })));
  });
}
