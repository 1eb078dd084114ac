import { chooseTimeEdit, type TimeDraft } from "../../stores/timeEdit";
import { KINDS } from "./kinds";

/** Kind of the time edit. */
export function KindSwitch({ draft }: { draft: TimeDraft }) {
  return (
    <fieldset className="join shrink-0" aria-label="Kind of edit">
      {KINDS.map(({ id, title, told }) => (
        <button
          key={id}
          type="button"
          aria-pressed={draft.kind === id}
          title={told}
          className={`btn btn-xs join-item ${draft.kind === id ? "btn-primary" : ""}`}
          onClick={() => chooseTimeEdit(id)}
        >
          {title}
        </button>
      ))}
    </fieldset>
  );
}
