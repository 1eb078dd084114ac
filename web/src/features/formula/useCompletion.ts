import { type RefObject, useState } from "react";
import type { FormulaName } from "../../api/types";

const MAX_ROWS = 6;

/** The word that ends where the pen is in a text. */
function wordAt(text: string, at: number): string {
  return /[A-Za-z_][A-Za-z0-9_]*$/.exec(text.slice(0, at))?.[0] ?? "";
}

/** Names that begin as the word under the pen does: arrow keys choose, Tab or Enter writes. */
export function useCompletion(
  input: RefObject<HTMLInputElement | null>,
  text: string,
  names: FormulaName[],
  write: (text: string) => void,
) {
  const [at, setAt] = useState(text.length);
  const [chosen, setChosen] = useState(0);
  const [away, setAway] = useState(true);
  const word = wordAt(text, at);
  const found = word
    ? names.filter(({ name }) => name.toLowerCase().startsWith(word.toLowerCase()) && name !== word).slice(0, MAX_ROWS)
    : [];
  const list = away ? [] : found;
  const follow = () => {
    setAt(input.current?.selectionStart ?? text.length);
    setChosen(0);
  };
  const take = (name: FormulaName) => {
    const start = at - word.length;
    write(text.slice(0, start) + name.insert + text.slice(at));
    setAway(true);
    const end = start + name.insert.length;
    requestAnimationFrame(() => input.current?.setSelectionRange(end, end));
  };
  /** Whether the list has handled the key. */
  const onKey = (key: string): boolean => {
    const name = list[chosen];
    if (!name) return false;
    if (key === "ArrowDown") setChosen((chosen + 1) % list.length);
    else if (key === "ArrowUp") setChosen((chosen - 1 + list.length) % list.length);
    else if (key === "Tab" || key === "Enter") take(name);
    else if (key === "Escape") setAway(true);
    else return false;
    return true;
  };
  return { list, chosen, take, onKey, follow, begin: () => setAway(false), end: () => setAway(true) };
}
