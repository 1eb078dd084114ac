import { SheetTitle } from "../../shared/SheetTitle";
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

/** Title of the sheet: its numbers, and which of them are drawn. */
export function SheetHead({ title, headPx, groups, group, hidden, onGroup, onFlip }: SheetHeadProps) {
  return (
    <div
      className="flex shrink-0 flex-col gap-1 overflow-y-auto border-base-300 border-r px-3 py-1.5"
      style={{ width: headPx }}
    >
      <SheetTitle title={title} />
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
            className="tick"
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
