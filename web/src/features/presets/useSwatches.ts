import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useStore } from "zustand";
import { client, take } from "../../api/client";
import type { PresetEntry, Swatch } from "../../api/types";
import { openShot } from "../../stores/openShot";

/** The pictures of presets in sight on the shot as it stands, by preset; the last ones made until there are newer. */
export function useSwatches(entries: PresetEntry[]): Map<string, Swatch> {
  const queries = useQueryClient();
  const slug = useStore(openShot, (each) => each.state?.slug);
  const stands = useStore(openShot, ({ state }) => `${state?.revision} ${state?.variant}`);
  const { data } = useQuery({
    queryKey: ["swatches", slug, stands, entries.map(({ key, content }) => `${key} ${content}`)],
    queryFn: () => {
      const body = { presets: entries.map(({ key }) => key) };
      return take<Swatch[]>(
        client.POST("/api/shots/{shot}/swatches", { params: { path: { shot: slug ?? "" } }, body }),
      );
    },
    enabled: slug !== undefined && entries.length > 0,
    placeholderData: (before) =>
      before ?? queries.getQueriesData<Swatch[]>({ queryKey: ["swatches", slug] }).at(-1)?.[1],
    staleTime: Number.POSITIVE_INFINITY,
  });
  return new Map(data?.map((swatch) => [swatch.key, swatch]));
}
