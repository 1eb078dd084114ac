import { Copy } from "lucide-react";
import { Link } from "wouter";
import { client, take } from "../../api/client";
import type { ShotCard as Card, State } from "../../api/types";
import { RemoveShot } from "./RemoveShot";
import { ShotTrace } from "./ShotTrace";
import { useActing } from "./useActing";

/** A shot in a list: scribble, name, length. */
export function ShotCard({ shot }: { shot: Card }) {
  const act = useActing();
  const duplicate = () => {
    const body = { name: `${shot.name.slice(0, 110)} copy`, copy_of: shot.id };
    return act(
      take<State>(client.POST("/api/projects/{slug}/shots", { params: { path: { slug: shot.project_slug } }, body })),
    );
  };
  return (
    <article className="group relative flex gap-3 rounded-md border border-base-300 bg-base-200/50 p-3 hover:border-primary">
      <ShotTrace shot={shot} />
      <div className="flex min-w-0 flex-1 flex-col">
        <Link
          href={`/shot/${shot.slug}`}
          className="line-clamp-2 font-semibold text-primary after:absolute after:inset-0"
          title={shot.name}
        >
          {shot.name}
        </Link>
        <span className="num text-(--graphite) text-xs">
          {shot.frames} frames · {shot.seconds.toFixed(1)} s · <span className="whitespace-nowrap">{shot.fps} fps</span>
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
          <RemoveShot shot={shot} />
        </span>
      </div>
    </article>
  );
}
