import type { Clip } from "../../api/types";
import type { Way } from "./placing";

const WAYS: { way: Way; title: string; hint: string }[] = [
  {
    way: "new",
    title: "A clip of its own",
    hint: "On a lane of its own: over the stretch that loops, else over the whole shot; a short event from the pen line on",
  },
  { way: "instead", title: "Instead of", hint: "What the selected clip holds is replaced; where it lies stays" },
  {
    way: "over",
    title: "From the pen line on",
    hint: "The selected clip gives way at the pen line; the two cross-fade within a second",
  },
];

type WayChoiceProps = { clip: Clip | undefined; way: Way; onChoose: (way: Way) => void };

/** Where a preset goes; the selected clip is what it replaces or follows. */
export function WayChoice({ clip, way, onChoose }: WayChoiceProps) {
  return (
    <fieldset className="cond flex flex-col gap-1 text-[13px]" aria-label="Where it goes">
      {WAYS.map((each) => (
        <label
          key={each.way}
          title={each.hint}
          className={`flex items-start gap-1.5 ${clip || each.way === "new" ? "cursor-pointer" : "opacity-50"}`}
        >
          <input
            type="radio"
            name="way"
            className="radio radio-xs mt-0.5"
            disabled={!clip && each.way !== "new"}
            checked={way === each.way}
            onChange={() => onChoose(each.way)}
          />
          <span className="min-w-0 break-words">
            {each.title}
            {each.way === "instead" && ` ${clip ? `“${clip.name}”` : "a clip"}`}
          </span>
        </label>
      ))}
      {!clip && <span className="text-(--graphite) text-xs">Select a clip on its lane for these two.</span>}
    </fieldset>
  );
}
