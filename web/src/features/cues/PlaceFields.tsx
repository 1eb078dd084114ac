import { useStore } from "zustand";
import { cuesAt, setCues } from "../../acts/cues";
import type { TargetRequest } from "../../acts/targets";
import type { Cue, Shot, Target } from "../../api/types";
import { TargetChoice } from "../../parts/TargetChoice";
import { NumberField } from "../../shared/number";
import { motion } from "../../stores/motion";
import { view } from "../../stores/view";

const COORDINATES = ["x", "height", "z"] as const;
const DIGITS = 2;

/** Position of a cue: none, a point that is typed or picked in either view, or a target. */
export function PlaceFields({ shot, cue }: { shot: Shot; cue: Cue }) {
  const picking = useStore(view, (each) => each.picking === "cue");
  const place = cue.place_m ?? null;
  const pick = () => view.setState({ picking: picking ? false : "cue" });
  const take = (asked: TargetRequest) => {
    if (asked.choice === "") void setCues({ nowhere: true });
    else if (asked.choice === "point") pick();
    else void cuesAt(asked);
  };
  return (
    <fieldset className="flex flex-col gap-1.5 text-xs" aria-label="Where the cue happens">
      <div className="flex flex-wrap items-center gap-2">
        <span className="cond text-(--graphite)">at</span>
        <TargetChoice
          shot={shot}
          target={place ? AT_PLACE : (cue.on ?? null)}
          label="Where the cue happens"
          point="a place, picked next"
          nothing="nowhere"
          onTake={take}
        />
        <button
          type="button"
          className={`btn btn-xs ml-auto ${picking ? "btn-primary" : ""}`}
          aria-pressed={picking}
          title="Then click a point of the set, in either view"
          onClick={pick}
        >
          pick
        </button>
      </div>
      {place && <Coordinates place={place} />}
      {cue.on && <WhereNow shot={shot} cue={cue} />}
      {!place && !cue.on && <p>No position: axes respond independently</p>}
    </fieldset>
  );
}

const AT_PLACE = { kind: "point", name: "a place" } as Target;

type Place = [number, number, number];

function Coordinates({ place }: { place: Place }) {
  return (
    <div className="flex items-center gap-2">
      {COORDINATES.map((title, n) => (
        <span key={title} className="flex items-center gap-0.5">
          {title}
          <NumberField
            label={`Place of the cue, ${title}`}
            value={place[n] ?? 0}
            unit="m"
            step={0.01}
            digits={DIGITS}
            className="border-base-300 border-b"
            onCommit={(value) => setCues({ place_m: place.map((each, at) => (at === n ? value : each)) as Place })}
          />
        </span>
      ))}
    </div>
  );
}

/** Position of a cue's target at the cue's frame. */
function WhereNow({ shot, cue }: { shot: Shot; cue: Cue }) {
  const place = useStore(motion, (each) => each.readings?.cue_places[cue.id]);
  const parts = cue.on?.kind === "middle" ? [cue.on.one, cue.on.other] : [cue.on];
  if (!shot.subject && parts.some((each) => each?.kind === "subject"))
    return <p role="alert">No subject set; the cue has no position.</p>;
  return (
    <p className="text-(--graphite)">
      at its frame{" "}
      {COORDINATES.map((title, n) => (
        <span key={title} className="num ml-1.5">
          {title} {place ? (place[n] ?? 0).toFixed(DIGITS) : "…"}
        </span>
      ))}{" "}
      m
    </p>
  );
}
