/** Steps back and forth through the revisions of the open shot. */
import { having, takeState } from "../api/changes";
import { client } from "../api/client";
import { inTurn } from "./editing";
import { adopt } from "./openShot";
import { previewState } from "./preview";

export function undo(): Promise<void> {
  return step("/api/shots/{shot}/undo");
}

export function redo(): Promise<void> {
  return step("/api/shots/{shot}/redo");
}

/** Makes any revision the present one; later ones stay. */
export function goTo(revision: number): Promise<void> {
  previewState.setState({ revision: null });
  return inTurn(async (state) => {
    const params = { path: { shot: state.slug } };
    const body = { base_revision: state.revision, revision };
    adopt(await takeState(client.POST("/api/shots/{shot}/goto", { params, body, ...having(state) }), state));
  });
}

function step(path: "/api/shots/{shot}/undo" | "/api/shots/{shot}/redo"): Promise<void> {
  return inTurn(async (state) => {
    const params = { path: { shot: state.slug } };
    const body = { base_revision: state.revision };
    adopt(await takeState(client.POST(path, { params, body, ...having(state) }), state));
  });
}
