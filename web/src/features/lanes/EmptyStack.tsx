import { addHandheld } from "../../stores/selection";
import { view } from "../../stores/view";

/** What a shot without layers says. */
export function EmptyStack({ left }: { left: number }) {
  return (
    <div
      className="flex h-full min-h-32 flex-col items-center justify-center gap-3 px-6 text-center"
      style={{ marginLeft: left }}
    >
      <p className="relative z-20 max-w-md bg-base-100 px-2 text-sm">
        This move has no motion on it yet. Start with a feel of a camera held by hand: a slow sway and a fine shake,
        sized for this lens. Everything in it stays editable.
      </p>
      <span className="relative z-20 flex gap-2">
        <button type="button" className="btn btn-primary btn-sm" onClick={addHandheld}>
          Add handheld feel <kbd className="num opacity-75">H</kbd>
        </button>
        <button type="button" className="btn btn-sm" onClick={() => view.setState({ sheet: "presets" })}>
          Look through presets <kbd className="num opacity-75">R</kbd>
        </button>
      </span>
    </div>
  );
}
