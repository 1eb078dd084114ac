import { X } from "lucide-react";
import { view } from "../../stores/view";
import type { CurveGroup } from "./groups";

type SheetHeadProps = {
  title: string;
  headPx: number;
  groups: CurveGroup[];
  group: number;
  hidden: string[];
  onGroup: (group: number) => void;
  onFlip: (track: string) => void;
};

/** What the sheet is of: which numbers, and which of them are drawn. */
export function SheetHead({ title, headPx, groups, group, hidden, onGroup, onFlip }: SheetHeadProps) {
  return (
    <div
      className="flex shrink-0 flex-col gap-1 overflow-y-auto border-base-300 border-r px-3 py-1.5"
      style={{ width: headPx }}
    >
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
      <select
        className="cond border-base-300 border-b bg-base-100 text-xs"
        aria-label="Numbers shown"
        value={group}
        onChange={(event) => onGroup(Number(event.target.value))}
      >
        {groups.map((each, index) => (
          <option key={each.title} value={index}>
            {each.title}
          </option>
        ))}
      </select>
      {groups[group]?.tracks.map((track) => (
        <label key={track.at} className="cond flex cursor-pointer items-center gap-1.5 text-[13px]">
          <input
            type="checkbox"
            className="checkbox checkbox-xs h-3 w-3 rounded-[2px] p-0"
            checked={!hidden.includes(track.at)}
            onChange={() => onFlip(track.at)}
          />
          <span className="h-0.5 w-3" style={{ background: `var(--ink-${track.ink})` }} />
          {track.title}
        </label>
      ))}
    </div>
  );
}
