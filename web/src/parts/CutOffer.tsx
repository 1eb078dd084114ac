import type { Cut } from "../api/types";

/** What a cut shows of this shot, before it is taken. */
export function CutOffer({ cut, onTake }: { cut: Cut; onTake: () => void }) {
  return (
    <section aria-label="What the cut changes" className="mb-3 flex flex-col gap-2 text-sm">
      <ul className="list-disc pl-5">
        {cut.says.map((each) => (
          <li key={each}>{each}</li>
        ))}
      </ul>
      <p className="opacity-80">Keys outside of the range stay, for the next cut.</p>
      <button type="button" className="btn btn-sm btn-primary self-end" onClick={onTake}>
        Conform to the cut
      </button>
    </section>
  );
}
