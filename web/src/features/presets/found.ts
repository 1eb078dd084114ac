/** Looking for presets by words and tags. */
import type { PresetEntry } from "../../api/types";

/** Search words of custom presets besides their tags. */
export const OWN = "yours";

const tagsOf = ({ own, preset }: PresetEntry): string[] => [...(own ? [OWN] : []), ...(preset?.tags ?? [])];

/** Presets whose name, description, tags or search words contain all the words, and that have all the tags, custom ones first; unreadable ones are always shown. */
export function found(list: PresetEntry[], words: string, tags: string[]): PresetEntry[] {
  const queryWords = words.toLowerCase().split(/\s+/);
  const fitting = list.filter((entry) => {
    if (!entry.preset) return true;
    const own = tagsOf(entry);
    const text = [entry.preset.name, entry.preset.line, entry.words, ...own].join(" ").toLowerCase();
    return queryWords.every((word) => text.includes(word)) && tags.every((tag) => own.includes(tag));
  });
  return [...fitting.filter(({ own }) => own), ...fitting.filter(({ own }) => !own)];
}

/** All tags, the commonest first. */
export function allTags(list: PresetEntry[]): string[] {
  const counts = new Map<string, number>();
  for (const tag of list.flatMap(tagsOf)) counts.set(tag, (counts.get(tag) ?? 0) + 1);
  return [...counts].sort(([a, n], [b, m]) => m - n || a.localeCompare(b)).map(([tag]) => tag);
}
