import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { useStore } from "zustand";
import { client, take } from "../api/client";
import type { Checked } from "../api/types";
import { openShot } from "../stores/openShot";
import { trying } from "../stores/trying";

/** A shot is checked when nobody has changed it, or tried something on, for so long. */
const RESTS_MS = 700;

/** The revision that has been left alone for a while; the last such one while something goes on. */
function useRested(revision: number | undefined, busy: boolean): number | undefined {
  const [rested, setRested] = useState<number | undefined>(undefined);
  useEffect(() => {
    if (busy) return;
    const timer = setTimeout(() => setRested(revision), RESTS_MS);
    return () => clearTimeout(timer);
  }, [revision, busy]);
  return rested;
}

/** What checks find in the open shot, of the last revision that rested; asked in the background. */
export function useChecks(): Checked | undefined {
  const slug = useStore(openShot, (each) => each.state?.slug);
  const revision = useStore(openShot, (each) => each.state?.revision);
  const variant = useStore(openShot, (each) => each.state?.variant);
  const busy = useStore(trying, (each) => each.command !== null);
  const rested = useRested(revision, busy);
  const params = { path: { shot: slug ?? "" } };
  return useQuery({
    queryKey: ["checks", slug, rested, variant],
    queryFn: () => take<Checked>(client.GET("/api/shots/{shot}/checks", { params })),
    enabled: slug !== undefined && rested !== undefined,
    placeholderData: keepPreviousData,
    staleTime: Infinity,
  }).data;
}
