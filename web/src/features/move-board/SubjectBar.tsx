import { useStore } from "zustand";
import type { Shot } from "../../api/types";
import { Tick } from "../../shared/Tick";
import { useObjects } from "../../shared/useObjects";
import { markSubject } from "../../stores/editing";
import { view } from "../../stores/view";

const NONE = "none";

/** The object of the set that is the subject; it is followed where it moves, and can be tinted. */
export function SubjectBar({ document }: { document: Shot }) {
  const tinted = useStore(view, (state) => state.tinted);
  const picking = useStore(view, (state) => state.picking === "subject");
  const set = document.set_id ?? null;
  const objects = useObjects(set);
  const object = document.subject?.object ?? NONE;
  return (
    <div className="cond flex items-center gap-3 text-xs">
      <label className="flex min-w-0 items-center gap-1">
        subject
        <select
          className="max-w-40 border-base-300 border-b bg-base-100"
          value={object}
          onChange={(event) => void markSubject(event.target.value === NONE ? null : event.target.value)}
        >
          <option>{NONE}</option>
          {object !== NONE && !objects?.includes(object) && <option>{object}</option>}
          {objects?.map((each) => (
            <option key={each}>{each}</option>
          ))}
        </select>
      </label>
      <button
        type="button"
        className={`btn btn-xs ${picking ? "btn-primary" : ""}`}
        aria-pressed={picking}
        disabled={set === null}
        title={
          set === null
            ? "The shot has no set, so there is nothing to pick"
            : "Then click a point of the set, in either view; it is followed where its piece moves (P)"
        }
        onClick={() => view.setState({ picking: picking ? false : "subject" })}
      >
        {document.subject?.name.startsWith("point on ") ? "point picked" : "pick a point"}
      </button>
      <Tick title="highlight" on={tinted} onChange={(on) => view.setState({ tinted: on })} />
    </div>
  );
}
