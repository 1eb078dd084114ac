import { useStore } from "zustand";
import { choosePictures, selectPlate } from "../../acts/plates";
import type { Plate } from "../../api/types";
import { Menu } from "../../shared/Menu";
import { openShot } from "../../stores/openShot";
import { stage } from "../../stores/stage";
import { type PieceLook, view } from "../../stores/view";

const NONE: Plate[] = [];
const NEXT: Record<PieceLook, PieceLook> = { shown: "box", box: "hidden", hidden: "shown" };

/** Set pieces: shown, as boxes, or hidden, to keep playback light. Only a way of looking; nothing of the shot changes. */
export function PiecesMenu() {
  const pieces = useStore(stage, (state) => state.pieces);
  const looks = useStore(view, (state) => state.looks);
  const plates = useStore(openShot, (state) => state.state?.document.plates ?? NONE);
  const changed = pieces.filter((name) => (looks[name] ?? "shown") !== "shown").length;
  return (
    <Menu
      label="Pieces of the set"
      button={`pieces${changed ? ` · ${changed} hidden` : ""}`}
      buttonClass="cond min-h-6 cursor-pointer rounded-sm bg-base-100/80 px-2 text-xs"
      listClass="w-52 bg-base-200 text-xs"
      items={[
        ...plates.map(({ id, name }) => ({
          id: `plate:${id}`,
          content: <span className="cond truncate">plate: {name}</span>,
          run: () => selectPlate(id),
        })),
        { id: "hang", content: <span className="cond">Add image plates …</span>, run: choosePictures },
        ...pieces.map((name) => {
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
        }),
      ]}
    />
  );
}
