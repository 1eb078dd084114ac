import type { OriginPart } from "../../api/types";

/** Effect of taking it from the preset. */
const OFFERS: Record<OriginPart["how"], string> = {
  same: "as in the preset",
  "changed here": "changed in this clip: revert",
  "changed in the preset": "changed in the preset since: update",
  "not here": "missing here: put it in",
  "not in the preset": "not in the preset: remove it",
  "of this clip": "added to this clip: delete",
};

type OriginRowProps = { row: OriginPart; taken: boolean; onTake: (take: boolean) => void };

/** A layer of the clip, of the preset or of both, with each field that differs. */
export function OriginRow({ row, taken, onTake }: OriginRowProps) {
  const same = row.how === "same";
  return (
    <li className={`rounded-sm border border-base-300 px-2 py-1 ${same ? "opacity-70" : ""}`}>
      <label className="flex items-center gap-2">
        <input
          type="checkbox"
          className="tick"
          aria-label={`Take ${row.name}`}
          disabled={same}
          checked={taken}
          onChange={(event) => onTake(event.target.checked)}
        />
        <b className="cond min-w-0 truncate font-semibold text-white">{row.name}</b>
        <span className="ml-auto shrink-0 text-xs">{OFFERS[row.how]}</span>
      </label>
      {row.fields.length > 0 && (
        <ul className="mt-0.5 flex flex-wrap gap-x-4 pl-6 text-xs">
          {row.fields.map(({ title, here, there }) => (
            <li key={title} className="flex min-w-0 max-w-full gap-1">
              <span className="cond shrink-0">{title}</span>
              <span className="num min-w-0 truncate" title={`${here} here, ${there} in the preset`}>
                {here} → {there}
              </span>
            </li>
          ))}
        </ul>
      )}
    </li>
  );
}
