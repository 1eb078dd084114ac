import { useQuery } from "@tanstack/react-query";
import { useStore } from "zustand";
import { client, take } from "../../api/client";
import type { Lean } from "../../api/types";
import { openShot } from "../../stores/openShot";

/** Maximum skew of the picture by a rolling shutter. */
export function LeanText({ readoutMs }: { readoutMs: number }) {
  const slug = useStore(openShot, ({ state }) => state?.slug ?? "");
  const stateKey = useStore(openShot, ({ state }) => `${state?.revision} ${state?.variant}`);
  const params = { path: { shot: slug }, query: { readout_ms: readoutMs } };
  const { data } = useQuery({
    queryKey: ["lean", slug, stateKey, readoutMs],
    queryFn: () => take<Lean>(client.GET("/api/shots/{shot}/lean", { params })),
    enabled: slug !== "",
  });
  return <span className="num text-xs">{data ? `skew up to ${data.px.toFixed(1)} px` : "…"}</span>;
}
