import { X } from "lucide-react";
import { useStore } from "zustand";
import { cancelMovie } from "../../acts/movie";
import { filming, NO_MOVIE } from "../../stores/movie";
import { complain } from "../../stores/notes";

/** Progress of a movie in the header, with the remaining time; cancels it. */
export function FilmingChip() {
  const { movie, waits, problem } = useStore(filming);
  if (!movie || movie.status === "done") return null;
  const share = movie.next / Math.max(movie.frames, 1);
  const message = problem ?? waits ?? `frame ${movie.next} of ${movie.frames}`;
  return (
    <span
      className={`flex min-w-0 items-center gap-1.5 rounded-sm border px-2 text-xs ${problem ? "border-error" : "border-base-300"}`}
      title={`${movie.filename}: ${message}`}
      data-testid="filming"
    >
      <span className="cond whitespace-nowrap" aria-live="polite">
        Movie <span className="num">{Math.floor(100 * share)} %</span>
        {(problem || waits) && <span className="ml-1 inline-block max-w-40 truncate align-bottom">{message}</span>}
      </span>
      <button
        type="button"
        className="btn btn-ghost btn-xs btn-square"
        aria-label={problem ? "Dismiss the movie" : "Cancel the movie"}
        onClick={() => (problem ? filming.setState(NO_MOVIE) : void cancelMovie().catch(complain))}
      >
        <X size={12} />
      </button>
    </span>
  );
}
