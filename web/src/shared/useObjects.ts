import { useQuery } from "@tanstack/react-query";
import { client, take } from "../api/client";
import type { SetObjects } from "../api/types";

/** Names of the objects of a set; undefined until they are known. */
export function useObjects(set: string | null): string[] | undefined {
  const params = { path: { set_id: set ?? "" } };
  return useQuery({
    queryKey: ["objects", set],
    queryFn: () => take<SetObjects>(client.GET("/api/sets/{set_id}/objects", { params })),
    enabled: set !== null,
    staleTime: Infinity,
  }).data?.objects;
}
