import { useState } from "react";
import { useStore } from "zustand";
import { startMovie } from "../../acts/movie";
import { explain } from "../../api/client";
import type { MovieRequest, State } from "../../api/types";
import { Complaint } from "../../parts/Complaint";
import { useAfterTyped } from "../../shared/number";
import { filming } from "../../stores/movie";
import { MovieForm } from "./MovieForm";
import { MovieProgress } from "./MovieProgress";
import { freshMovie, rememberMovie } from "./movieRequest";

type MoviePartProps = {
  state: State;
  kind: { name: string; ending: string };
  drawing: boolean;
  onBegun: () => void;
};

/** A movie of the picture: asked for, watched while it is drawn. */
export function MoviePart({ state, kind, drawing, onBegun }: MoviePartProps) {
  const [asked, setAsked] = useState(() => freshMovie(state));
  const [refused, setRefused] = useState("");
  const problem = useStore(filming, (each) => each.problem);
  const begin = useAfterTyped(() => {
    onBegun();
    rememberMovie(asked);
    setRefused("");
    const format = kind.name as MovieRequest["format"];
    startMovie({ ...asked, format }).catch((error) => setRefused(explain(error)));
  });
  return (
    <>
      <MovieForm state={state} asked={asked} disabled={drawing} onChange={setAsked} />
      {drawing && <MovieProgress />}
      <Complaint text={refused || problem || ""} />
      <div className="flex justify-end gap-2">
        <button type="button" className="btn btn-sm btn-primary" disabled={drawing} onClick={begin}>
          Make {kind.ending}
        </button>
      </div>
    </>
  );
}
