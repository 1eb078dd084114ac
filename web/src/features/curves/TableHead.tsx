import { keysOf } from "../../api/param";
import type { Track } from "./groups";

/** Names of the numbers; each can be cleared of its keys. */
export function TableHead(props: { tracks: Track[]; unit: string; onClear: (track: Track) => void }) {
  const { tracks, unit, onClear } = props;
  return (
    <thead className="sticky top-0 z-10 bg-base-100">
      <tr>
        <th className="cond w-16 border-base-300 border-b px-2 text-left font-normal text-(--graphite)">frame</th>
        {tracks.map((track) => (
          <th key={track.at} className="cond w-32 border-base-300 border-b px-2 text-right font-normal">
            {track.title} {unit}
            <button
              type="button"
              className="btn btn-ghost btn-xs ml-1 h-4 min-h-0 px-1"
              title={`Delete all keys of ${track.title}`}
              disabled={keysOf(track.param).length === 0}
              onClick={() => onClear(track)}
            >
              clear
            </button>
          </th>
        ))}
      </tr>
    </thead>
  );
}
