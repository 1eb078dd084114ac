import { useEffect, useState } from "react";
import { commit } from "../../stores/editing";
import { view } from "../../stores/view";

/** A key, by its number and frame. */
export type KeyRef = { at: string; frame: number };

export const sameKey = (a: KeyRef, b: KeyRef): boolean => a.at === b.at && a.frame === b.frame;

/** The keys that are selected in the plot; Delete removes them before it reaches anything else on the page. */
export function useSelectedKeys(): [KeyRef[], (keys: KeyRef[]) => void] {
  const [selected, setSelected] = useState<KeyRef[]>([]);
  useEffect(() => {
    const remove = (event: KeyboardEvent) => {
      const typing = event.target instanceof HTMLElement && /^(INPUT|SELECT|TEXTAREA)$/.test(event.target.tagName);
      // A dialog has its own keys.
      if (typing || view.getState().dialog !== null || event.defaultPrevented) return;
      if (!["Delete", "Backspace"].includes(event.key) || selected.length === 0) return;
      event.stopPropagation();
      void commit({ type: "delete_keys", keys: selected });
      setSelected([]);
    };
    window.addEventListener("keydown", remove, { capture: true });
    return () => window.removeEventListener("keydown", remove, { capture: true });
  }, [selected]);
  return [selected, setSelected];
}
