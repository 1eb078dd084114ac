import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useStore } from "zustand";
import { client, take } from "../../api/client";
import type { Swatch } from "../../api/types";
import { openShot } from "../../stores/openShot";

/** Motion of each corner of a blend alone, by its id. */
export function useCorners(clip: string): Record<string, Swatch> {
  const slug = useStore(openShot, (each) => each.state?.slug) ?? "";
  const revision = useStore(openShot, (each) => each.state?.revision);
  const params = { path: { shot: slug, clip } };
  const { data } = useQuery({
    queryKey: ["corners", slug, clip, revision],
    queryFn: () => take<Swatch[]>(client.GET("/api/shots/{shot}/clips/{clip}/corners", { params })),
    placeholderData: keepPreviousData,
  });
  return Object.fromEntries((data ?? []).map((swatch) => [swatch.key, swatch]));
}
