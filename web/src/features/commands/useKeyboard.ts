import { useEffect } from "react";
import { view } from "../../stores/view";
import { ACTIONS } from "./actions";

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

/** Keys of the bench. B shows the bare move for as long as it is held. */
export function useKeyboard(): void {
  useEffect(() => {
    let byTab = false;
    const press = () => {
      byTab = false;
    };
    const down = (event: KeyboardEvent) => {
      if (event.key === "Tab") byTab = true;
      if (typing(event.target) || view.getState().dialog !== null) return;
      const name = keyName(event);
      if (name === "B") {
        view.setState({ bypass: true });
        return;
      }
      const action = ACTIONS.find((each) => each.keys.includes(name));
      // Space presses a button only for who went there with Tab; whoever clicked it last means to play.
      if (!action || (event.target instanceof HTMLButtonElement && name === "Space" && byTab)) return;
      event.preventDefault();
      action.run();
    };
    const up = (event: KeyboardEvent) => {
      if (event.key.toUpperCase() === "B") view.setState({ bypass: false });
    };
    const away = () => view.setState({ bypass: false });
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
