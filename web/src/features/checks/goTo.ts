import { selectPlate } from "../../acts/plates";
import type { Finding } from "../../api/types";
import { clipsOf, findLayer, openShot } from "../../stores/openShot";
import { selectClip, selectLayer } from "../../stores/selection";
import { pause, seek } from "../../stores/transport";
import { selectMount, view } from "../../stores/view";

/** Shows where a finding is: the frame, and what it is about on the board. */
export function goTo({ at, frames }: Finding): void {
  pause();
  seek(Math.round(frames[0]));
  const { state } = openShot.getState();
  const [kind, rest = ""] = (at ?? "").split(":");
  const id = rest.split(".")[0] ?? "";
  if (!state) return;
  if (kind === "layer" && findLayer(state, id)) selectLayer(id);
  else if (kind === "clip" && clipsOf(state).some((clip) => clip.id === id)) selectClip(id);
  else if (kind === "plate" && state.document.plates.some((plate) => plate.id === id)) selectPlate(id);
  else if (kind === "mount") selectMount(id);
  else if (at?.startsWith("shot.")) view.setState({ board: "move" });
}
