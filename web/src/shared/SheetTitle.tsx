import { X } from "lucide-react";
import { view } from "../stores/view";

/** Title of a sheet over the lanes, and the close button. */
export function SheetTitle({ title }: { title: string }) {
  return (
    <div className="flex items-center">
      <span className="cond truncate font-semibold text-[13px]" title={title}>
        {title}
      </span>
      <button
        type="button"
        className="btn btn-ghost btn-xs btn-square ml-auto"
        aria-label="Back to the lanes"
        title="Back to the lanes (Escape)"
        onClick={() => view.setState({ sheet: null })}
      >
        <X size={13} />
      </button>
    </div>
  );
}
