import type { Action } from "./action";

// Found by another word for it: behind all whose titles have what was typed.
const OTHER_WORDS = -1;

/** Score of an action for a query, or null without a match; higher is better. */
function fit(title: string, also: string, phrase: string, words: string[]): number | null {
  if (!words.every((word) => title.includes(word))) {
    const known = `${title} ${also}`;
    return words.every((word) => known.includes(word)) ? OTHER_WORDS : null;
  }
  const starts = words.filter((word) => title.startsWith(word) || title.includes(` ${word}`)).length / words.length;
  return starts + (title.includes(phrase) ? 2 : 0) + (title.startsWith(phrase) ? 2 : 0);
}

// Smaller than the difference between kinds of match: a better match stays in front, even if it cannot run now.
const UNAVAILABLE = 1.5;

/** The actions whose titles have all words typed: what fits best first, of those alike what can run now; else in the list's order. */
export function search(actions: Action[], typed: string): Action[] {
  const phrase = typed.trim().toLowerCase();
  if (!phrase) return actions;
  const words = phrase.split(/\s+/);
  return actions
    .flatMap((action) => {
      const value = fit(action.title.toLowerCase(), action.also ?? "", phrase, words);
      if (value === null) return [];
      return [{ action, value: action.available?.() === false ? value - UNAVAILABLE : value }];
    })
    .sort((one, other) => other.value - one.value)
    .map(({ action }) => action);
}
