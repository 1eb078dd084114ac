import { useEffect } from "react";
import { blind } from "../../stores/blind";
import { note } from "../../stores/notes";
import { selection } from "../../stores/selection";
import { seeBare, view } from "../../stores/view";
import type { Action } from "./action";
import { ACTIONS } from "./actions";
import { PLAYING } from "./playing";

/** A key press as the table writes it: `Ctrl+Shift+Z`, `Space`, `H`. */
export function keyName(event: KeyboardEvent): string {
  const key = event.key === " " ? "Space" : event.key.length === 1 ? event.key.toUpperCase() : event.key;
  const shift = event.shiftKey && (event.key.length > 1 || /[a-z]/i.test(event.key)) ? "Shift+" : "";
  return `${event.ctrlKey || event.metaKey ? "Ctrl+" : ""}${shift}${key}`;
}

function typing(target: EventTarget | null): boolean {
  if (target instanceof HTMLElement && target.dataset.idle === "yes") return false;
  if (target instanceof HTMLInputElement && /^(checkbox|radio|button)$/.test(target.type)) return false;
  return (
    target instanceof HTMLElement && (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName))
  );
}

/** Why a key does nothing just now. */
function unavailable({ title }: Action): string {
  return selection().kind === "nothing"
    ? `“${title}”: nothing is selected`
    : `“${title}”: not available for this selection`;
}

/** Whether Space presses the focused element: buttons after Tab, checkboxes unless they were just clicked; otherwise it starts playback. */
function pressesItself(target: EventTarget | null, byTab: boolean, clicked: EventTarget | null): boolean {
  if (target instanceof HTMLInputElement) return target !== clicked;
  return target instanceof HTMLButtonElement && byTab;
}

/** Keys of the bench. B shows the bare move while it is held. During a blind test only those of the transport work. */
export function useKeyboard(): void {
  useEffect(() => {
    let byTab = false;
    let clicked: EventTarget | null = null;
    const press = (event: PointerEvent) => {
      byTab = false;
      clicked = event.target;
    };
    const down = (event: KeyboardEvent) => {
      if (event.key === "Tab") {
        byTab = true;
        clicked = null;
      }
      // A key that closed a menu or a dialog has no other effect.
      if (event.defaultPrevented) return;
      // Keys with Alt are the browser's, and a dialog's keys its own.
      if (event.altKey || typing(event.target) || view.getState().dialog !== null) return;
      const name = keyName(event);
      if (name === "B") {
        seeBare(blind.getState().test === null);
        return;
      }
      const action = (blind.getState().test ? PLAYING : ACTIONS).find((each) => each.keys.includes(name));
      if (!action || (name === "Space" && pressesItself(event.target, byTab, clicked))) return;
      const available = action.available?.() !== false;
      // Ctrl D is never the browser's here; others are, where there is nothing for them to work on.
      if (available || name === "Ctrl+D") event.preventDefault();
      if (event.repeat && !action.repeats) return;
      if (available) action.run();
      else if (!name.startsWith("Ctrl+")) note("info", unavailable(action));
    };
    const up = (event: KeyboardEvent) => {
      if (event.key.toUpperCase() === "B") seeBare(false);
    };
    const away = () => seeBare(false);
    window.addEventListener("pointerdown", press, true);
    window.addEventListener("keydown", down);
    window.addEventListener("keyup", up);
    window.addEventListener("blur", away);
    return () => {
      window.removeEventListener("pointerdown", press, true);
      window.removeEventListener("keydown", down);
      window.removeEventListener("keyup", up);
      window.removeEventListener("blur", away);
    };
  }, []);
}
