import type { Cut } from "../api/types";
import { limitsOf } from "../shared/fields";
import { beingRead, NumberField, useAfterTyped } from "../shared/number";

type CutOfferProps = { cut: Cut; onHandles: (frames: number) => Promise<void>; onTake: () => void };

/** Range of this shot in a cut, before it is applied. */
export function CutOffer({ cut, onHandles, onTake }: CutOfferProps) {
  const [least, most] = limitsOf("conform_to_cut.handles");
  const take = useAfterTyped(onTake);
  const changed = (frames: number) => {
    const found = onHandles(frames);
    beingRead(found.then(() => true));
    return found;
  };
  const handles = "handles" in cut.command ? (cut.command.handles ?? 0) : 0;
  return (
    <section aria-label="What the cut changes" className="mb-3 flex flex-col gap-2 text-sm">
      <ul className="list-disc pl-5">
        {cut.says.map((each) => (
          <li key={each}>{each}</li>
        ))}
      </ul>
      <p className="flex items-center gap-2">
        Handles, frames more at both ends:
        <NumberField
          label="Handles"
          value={handles}
          unit="f"
          step={0.2}
          least={least}
          most={most}
          digits={0}
          className="border-base-300 border-b"
          onCommit={(frames) => changed(Math.round(frames))}
        />
      </p>
      <p className="opacity-80">Keys outside of the range stay, for the next cut.</p>
      <button type="button" className="btn btn-sm btn-primary self-end" onClick={take}>
        Conform to the cut
      </button>
    </section>
  );
}
