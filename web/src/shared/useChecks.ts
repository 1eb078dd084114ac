import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useStore } from "zustand";
import { client, take } from "../api/client";
import type { Checked } from "../api/types";
import { openShot } from "../stores/openShot";
import { previewState } from "../stores/preview";
import { useRested } from "./useRested";

/** A shot is checked after this time without a change or preview. */
const RESTS_MS = 700;

/** Findings of the checks for the open shot, at its last unchanged revision; requested in the background. */
export function useChecks(): Checked | undefined {
  const slug = useStore(openShot, (each) => each.state?.slug);
  const revision = useStore(openShot, (each) => each.state?.revision);
  const variant = useStore(openShot, (each) => each.state?.variant);
  const busy = useStore(previewState, (each) => each.command !== null);
  const rested = useRested(revision, RESTS_MS, { busy });
  const params = { path: { shot: slug ?? "" } };
  return useQuery({
    queryKey: ["checks", slug, rested, variant],
    queryFn: () => take<Checked>(client.GET("/api/shots/{shot}/checks", { params })),
    enabled: slug !== undefined && rested !== undefined,
    placeholderData: keepPreviousData,
    staleTime: Infinity,
  }).data;
}
