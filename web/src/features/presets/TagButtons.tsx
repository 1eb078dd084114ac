import { useStore } from "zustand";
import type { PresetEntry } from "../../api/types";
import { allTags } from "./found";
import { search } from "./sheetStore";

/** Tags to look for; only presets that have all chosen ones are shown. */
export function TagButtons({ list }: { list: PresetEntry[] }) {
  const chosen = useStore(search, ({ tags }) => tags);
  const flip = (tag: string) =>
    search.setState({ tags: chosen.includes(tag) ? chosen.filter((each) => each !== tag) : [...chosen, tag] });
  return (
    <fieldset
      className="flex max-h-12 shrink-0 flex-wrap gap-1 overflow-y-auto border-base-300 border-b px-2 py-1"
      aria-label="Tags"
    >
      {allTags(list).map((tag) => (
        <button
          key={tag}
          type="button"
          aria-pressed={chosen.includes(tag)}
          className={`cond max-w-36 truncate rounded-full border px-1.5 text-[11px] leading-4 ${chosen.includes(tag) ? "border-primary bg-(--wash) text-primary" : "border-base-300 text-(--graphite) hover:bg-base-300/60"}`}
          onClick={() => flip(tag)}
        >
          {tag}
        </button>
      ))}
    </fieldset>
  );
}
