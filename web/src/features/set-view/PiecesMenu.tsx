import { useStore } from "zustand";
import { Menu } from "../../shared/Menu";
import { stage } from "../../stores/stage";
import { type PieceLook, view } from "../../stores/view";

const NEXT: Record<PieceLook, PieceLook> = { shown: "box", box: "hidden", hidden: "shown" };

/** Set pieces: shown, as boxes, or hidden, to keep playback light. Only a way of looking; nothing of the shot changes. */
export function PiecesMenu() {
  const pieces = useStore(stage, (state) => state.pieces);
  const looks = useStore(view, (state) => state.looks);
  if (pieces.length === 0) return null;
  const changed = pieces.filter((name) => (looks[name] ?? "shown") !== "shown").length;
  return (
    <Menu
      label="Pieces of the set"
      button={`pieces${changed ? ` · ${changed} hidden` : ""}`}
      buttonClass="cond min-h-6 cursor-pointer rounded-sm bg-base-100/80 px-2 text-xs"
      listClass="w-52 bg-base-200 text-xs"
      items={pieces.map((name) => {
        const look = looks[name] ?? "shown";
        return {
          id: name,
          stays: true,
          content: (
            <span className="cond flex justify-between">
              {name} <span className={look === "shown" ? "" : "text-warning"}>{look}</span>
            </span>
          ),
          run: () => view.setState({ looks: { ...looks, [name]: NEXT[look] } }),
        };
      })}
    />
  );
}
