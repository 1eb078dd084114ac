import { addHandheld } from "../../stores/selection";
import { view } from "../../stores/view";

/** Message of a shot without layers. */
export function EmptyStack({ left }: { left: number }) {
  return (
    <div
      className="flex h-full min-h-32 flex-col items-center justify-center gap-3 px-6 text-center"
      style={{ marginLeft: left }}
    >
      <p className="relative z-20 max-w-md bg-base-100 px-2 text-sm">
        No motion yet. Start with a handheld feel: slow sway plus fine shake, scaled to this lens. All of it stays
        editable.
      </p>
      <span className="relative z-20 flex gap-2">
        <button type="button" className="btn btn-primary btn-sm" onClick={addHandheld}>
          Add handheld feel <kbd className="num opacity-75">H</kbd>
        </button>
        <button type="button" className="btn btn-sm" onClick={() => view.setState({ sheet: "presets" })}>
          Browse presets <kbd className="num opacity-75">R</kbd>
        </button>
      </span>
    </div>
  );
}
