import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Copy, Trash2 } from "lucide-react";
import { useEffect, useRef, useState } from "react";
import { Link } from "wouter";
import { client, take } from "../../api/client";
import { fetchMotion } from "../../api/motion";
import type { ShotCard as Card, State } from "../../api/types";
import { prepare } from "../../shared/canvas";
import { traceLine } from "../../shared/traceLine";
import { complain } from "../../stores/notes";

/** What a copy does not need: all of it comes from the shot copied. */
const COPY = {
  fps: { num: 24, den: 1 },
  frames: 1,
  picture: { width_px: 1920, height_px: 1080 },
  sensor_mm: 36,
  focal_mm: 35,
};
const WIDTH_PX = 120;
const HEIGHT_PX = 78;

/** A shot on its shelf: scribble, name, length. */
export function ShotCard({ shot }: { shot: Card }) {
  const queries = useQueryClient();
  const [sure, setSure] = useState(false);
  const act = async (work: Promise<unknown>) => {
    try {
      await work;
      await queries.invalidateQueries();
    } catch (error) {
      complain(error);
    }
  };
  const duplicate = () => {
    const body = { ...COPY, name: `${shot.name.slice(0, 110)} copy`, copy_of: shot.id };
    return act(
      take<State>(client.POST("/api/projects/{slug}/shots", { params: { path: { slug: shot.project_slug } }, body })),
    );
  };
  const remove = () => act(take<void>(client.DELETE("/api/shots/{shot}", { params: { path: { shot: shot.id } } })));
  return (
    <article className="group relative flex gap-3 rounded-md border border-base-300 bg-base-200/50 p-3 hover:border-primary">
      <Trace shot={shot} />
      <div className="flex min-w-0 flex-1 flex-col">
        <Link
          href={`/shot/${shot.slug}`}
          className="line-clamp-2 font-semibold text-primary after:absolute after:inset-0"
          title={shot.name}
        >
          {shot.name}
        </Link>
        <span className="num text-(--graphite) text-xs">
          {shot.frames} frames · {shot.seconds.toFixed(1)} s · {shot.fps} fps
        </span>
        <span className="cond text-(--graphite) text-sm">
          {shot.layers === 0 ? "bare move" : shot.layers === 1 ? "1 layer" : `${shot.layers} layers`}
        </span>
        <span className="relative z-10 mt-auto flex gap-1 self-end opacity-60 focus-within:opacity-100 group-hover:opacity-100">
          <button
            type="button"
            className="btn btn-ghost btn-xs"
            aria-label={`Duplicate ${shot.name}`}
            title="Duplicate"
            onClick={() => void duplicate()}
          >
            <Copy size={13} />
          </button>
          <button
            type="button"
            className={`btn btn-xs ${sure ? "btn-error" : "btn-ghost"}`}
            aria-label={sure ? `Really remove ${shot.name}` : `Remove ${shot.name}`}
            title="Remove with its history"
            onBlur={() => setSure(false)}
            onClick={() => (sure ? void remove() : setSure(true))}
          >
            <Trash2 size={13} /> {sure && "Remove for good?"}
          </button>
        </span>
      </div>
    </article>
  );
}

/** The shot's scribble. */
function Trace({ shot }: { shot: Card }) {
  const ref = useRef<HTMLCanvasElement>(null);
  const sum = useQuery({
    queryKey: ["trace", shot.id, shot.updated_at],
    queryFn: async () => (await fetchMotion(shot.id, [], 1, new Map())).arrays.get("sum") ?? null,
    enabled: shot.frames <= 20000,
  });
  useEffect(() => {
    const context = ref.current && prepare(ref.current, WIDTH_PX, HEIGHT_PX);
    if (context) traceLine(context, sum.data ?? null, WIDTH_PX, HEIGHT_PX);
  }, [sum.data]);
  return (
    <canvas
      ref={ref}
      role="img"
      aria-label={`Scribble of ${shot.name}`}
      data-drawn={sum.isFetching ? "no" : "yes"}
      style={{ width: WIDTH_PX, height: HEIGHT_PX }}
      className="shrink-0 rounded-sm bg-base-100"
    />
  );
}
