import { useStore } from "zustand";
import { type PieceLook, view } from "../../stores/view";
import { stage } from "./stageStore";

const NEXT: Record<PieceLook, PieceLook> = { shown: "box", box: "hidden", hidden: "shown" };

/** Set pieces: shown, as boxes, or hidden, to keep playback light. Only a way of looking; nothing of the shot changes. */
export function PiecesMenu() {
  const pieces = useStore(stage, (state) => state.pieces);
  const looks = useStore(view, (state) => state.looks);
  if (pieces.length === 0) return null;
  const changed = pieces.filter((name) => (looks[name] ?? "shown") !== "shown").length;
  return (
    <details className="dropdown dropdown-end absolute top-2 right-2">
      <summary className="cond list-none rounded-sm bg-base-100/80 px-2 py-0.5 text-xs">
        pieces{changed ? ` · ${changed} not shown` : ""}
      </summary>
      <ul className="dropdown-content z-20 mt-1 max-h-64 w-52 overflow-y-auto rounded-md border border-base-300 bg-base-200 p-1">
        {pieces.map((name) => {
          const look = looks[name] ?? "shown";
          return (
            <li key={name}>
              <button
                type="button"
                className="cond flex w-full justify-between rounded-sm px-2 py-0.5 text-left text-xs hover:bg-base-300"
                onClick={() => view.setState({ looks: { ...looks, [name]: NEXT[look] } })}
              >
                {name} <span className={look === "shown" ? "" : "text-warning"}>{look}</span>
              </button>
            </li>
          );
        })}
      </ul>
    </details>
  );
}
