import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useStore } from "zustand";
import { client, take } from "../../api/client";
import type { PresetEntry, Swatch } from "../../api/types";
import { useRested } from "../../shared/useRested";
import { openShot } from "../../stores/openShot";

const SOON_MS = 40;

/** The pictures of presets in sight on the shot as it stands, by preset; the last ones made until there are newer. */
export function useSwatches(entries: PresetEntry[]): Map<string, Swatch> {
  const queries = useQueryClient();
  const slug = useStore(openShot, (each) => each.state?.slug);
  const stands = useStore(openShot, ({ state }) => `${state?.revision} ${state?.variant}`);
  // Rows that only pass by are not asked for.
  const restedKeys = useRested(entries.map(({ key, content }) => `${key} ${content}`).join("\n"), SOON_MS);
  const lines = restedKeys ? restedKeys.split("\n") : [];
  const { data } = useQuery({
    queryKey: ["swatches", slug, stands, restedKeys],
    queryFn: () => {
      const body = { presets: lines.map((line) => line.split(" ", 1)[0] ?? "") };
      return take<Swatch[]>(
        client.POST("/api/shots/{shot}/swatches", { params: { path: { shot: slug ?? "" } }, body }),
      );
    },
    enabled: slug !== undefined && lines.length > 0,
    placeholderData: (before) =>
      before ?? queries.getQueriesData<Swatch[]>({ queryKey: ["swatches", slug] }).at(-1)?.[1],
    staleTime: Number.POSITIVE_INFINITY,
  });
  return new Map(data?.map((swatch) => [swatch.key, swatch]));
}
