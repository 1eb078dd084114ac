import { useQuery } from "@tanstack/react-query";
import { useId } from "react";
import { useStore } from "zustand";
import { client, take } from "../../api/client";
import type { PastSet as Told } from "../../api/types";
import { usePausedFrame } from "../../shared/usePausedFrame";
import { stretchesOf, useSetEdge } from "../../shared/useSetEdge";
import { openShot } from "../../stores/openShot";
import { previewState } from "../../stores/preview";
import { transport } from "../../stores/transport";
import { view } from "../../stores/view";

/** Hatching where the picture looks past the edge of the set, at the frame where the shot stands. */
export function PastSet() {
  const playing = useStore(transport, (each) => each.playing);
  const tried = useStore(previewState, (each) => each.command !== null);
  const bypass = useStore(view, (each) => each.bypass);
  const frame = usePausedFrame();
  const shows = stretchesOf(useSetEdge()).some(([first, last]) => frame >= first && frame <= last);
  return shows && !playing && !tried && !bypass && <Strips frame={frame} />;
}

function Strips({ frame }: { frame: number }) {
  const id = useId().replace(/\W/g, "");
  const slug = useStore(openShot, (each) => each.state?.slug) ?? "";
  const revision = useStore(openShot, (each) => each.state?.revision);
  const variant = useStore(openShot, (each) => each.state?.variant);
  const params = { path: { shot: slug }, query: { frame } };
  const { data } = useQuery({
    queryKey: ["past-set", slug, revision, variant, frame],
    queryFn: () => take<Told>(client.GET("/api/shots/{shot}/past-set", { params })),
    staleTime: Infinity,
  });
  if (!data?.strips.length) return null;
  return (
    <>
      <svg width="0" height="0" aria-hidden="true">
        <clipPath id={id} clipPathUnits="objectBoundingBox">
          {data.strips.map(([left, top, right, bottom]) => (
            <rect key={`${left} ${top}`} x={left} y={top} width={right - left} height={bottom - top} />
          ))}
        </clipPath>
      </svg>
      <span
        role="img"
        data-testid="past-set"
        aria-label="The picture looks past the edge of the set"
        className="hatched pointer-events-none absolute inset-0"
        style={{ clipPath: `url(#${id})` }}
      />
    </>
  );
}
