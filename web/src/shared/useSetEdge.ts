import type { Finding } from "../api/types";
import { useChecks } from "./useChecks";

/** Findings about the edge of the set, where the picture is past it. */
export function useSetEdge(): Finding | undefined {
  return useChecks()?.findings.find(({ check, at }) => check === "coverage" && at === "shot.set_id");
}

/** Frames in which it does: first and last of each stretch. */
export function stretchesOf(finding: Finding | undefined): [number, number][] {
  return (finding?.stretches ?? []) as [number, number][];
}
