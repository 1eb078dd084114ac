import { rideOn, rideOnSubject } from "../../acts/mounts";
import type { Mount, Shot } from "../../api/types";
import { Fields } from "../../parts/Fields";
import { useObjects } from "../../shared/useObjects";
import { serverTables } from "../../stores/serverTables";

const NOTHING = "nothing";
/** No object is called so: names have no colon and space before them. */
const SUBJECT = ": subject";

/** The object of the set that carries a mount, and the shares of its motion. */
export function RideForm({ shot, mount }: { shot: Shot; mount: Mount }) {
  const objects = useObjects(shot.set_id ?? null);
  const { ride } = mount;
  const chosen = ride?.object ?? NOTHING;
  const { subject } = shot;
  const onSubject = ride !== null && ride !== undefined && ride.object === subject?.name;
  const isMissing = ride && objects && !objects.includes(ride.object) && !onSubject;
  const take = (to: string) => {
    if (to === SUBJECT) void rideOnSubject(mount.id);
    else void rideOn(mount.id, to === NOTHING ? null : to);
  };
  return (
    <section className="flex flex-col gap-2" aria-label="Ride">
      <label className="cond flex items-center gap-2 text-xs">
        rides on
        <select
          className="max-w-56 border-base-300 border-b bg-base-100"
          value={chosen}
          onChange={(event) => take(event.target.value)}
        >
          <option>{NOTHING}</option>
          {ride && !objects?.includes(ride.object) && <option>{ride.object}</option>}
          {subject && !onSubject && !objects?.includes(subject.name) && (
            <option value={SUBJECT}>{subject.name} (the subject)</option>
          )}
          {objects?.map((each) => (
            <option key={each}>{each}</option>
          ))}
        </select>
      </label>
      {ride && (
        <div className="grid grid-cols-4 gap-x-3">
          <Fields at={`mount:${mount.id}.ride`} document={ride} looks={serverTables().forms.ride} />
        </div>
      )}
      {isMissing && (
        <p className="text-xs" role="alert">
          “{ride.object}” is not in this set: the mount keeps its path.
        </p>
      )}
      <p className="text-(--graphite) text-xs">
        {shot.set_id
          ? "Only motion while a weight is on carries the mount, so it never jumps and keeps its distance. Key the weights to time it."
          : "The shot has no set: only its subject can be ridden on, where one is marked and moves."}
      </p>
    </section>
  );
}
