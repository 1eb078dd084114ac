import { useQuery } from "@tanstack/react-query";
import { useStore } from "zustand";
import { cancelMovie } from "../../acts/movie";
import { client, take } from "../../api/client";
import type { MovieState } from "../../api/types";
import { filming } from "../../stores/movie";
import { complain } from "../../stores/notes";

const LOOK_MS = 1000;
const MAX_SECONDS = 90;

/** Remaining time in words, from the server. */
function useLeft(movie: string): string {
  const { data } = useQuery({
    queryKey: ["movie", movie],
    queryFn: () => take<MovieState>(client.GET("/api/movies/{movie}", { params: { path: { movie } } })),
    enabled: movie !== "",
    refetchInterval: LOOK_MS,
    retry: false,
    meta: { told: true },
  });
  const seconds = data?.left_s ?? null;
  if (seconds === null) return "";
  return seconds < MAX_SECONDS ? `${Math.ceil(seconds)} s` : `${Math.ceil(seconds / 60)} min`;
}

/** Progress of the movie; the dialog may be closed. */
export function MovieProgress() {
  const { movie, waits } = useStore(filming);
  const remaining = useLeft(movie?.id ?? "");
  if (!movie) return null;
  return (
    <div className="mb-3 text-sm">
      <progress
        className="progress progress-info w-full"
        value={movie.next}
        max={movie.frames}
        aria-label="Movie progress"
      />
      <p className="flex items-center gap-3">
        <span className="num flex-1 text-xs">
          frame {movie.next} of {movie.frames}
          {remaining && ` · ${remaining} left`}
          {waits && ` · ${waits}`}
        </span>
        <button type="button" className="btn btn-sm" onClick={() => void cancelMovie().catch(complain)}>
          Cancel the movie
        </button>
      </p>
      <p className="mt-1 text-xs">Continues when you close this dialog; the page stays usable.</p>
    </div>
  );
}
