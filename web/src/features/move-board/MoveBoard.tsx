import { useStore } from "zustand";
import { addressOf, type MoveOrLens } from "../../acts/moving";
import { takeLens } from "../../acts/placing";
import type { Mount, Shot } from "../../api/types";
import { facts } from "../../stores/facts";
import { openShot } from "../../stores/openShot";
import { workMount } from "../../stores/rig";
import { outsidePose } from "../../stores/stage";
import { type MountPart, view } from "../../stores/view";
import { GiveForm } from "./GiveForm";
import { MountBar } from "./MountBar";
import { MoveHead } from "./MoveHead";
import { MoveRow } from "./MoveRow";
import { OperatorForm } from "./OperatorForm";
import { PinBar } from "./PinBar";
import { PlaceBar } from "./PlaceBar";
import { RideForm } from "./RideForm";
import { RigForm } from "./RigForm";
import { SubjectBar } from "./SubjectBar";

/** A mount of the rig: its pose at the present frame, what it is, its springs, who aims it, what it rides on. */
export function MoveBoard() {
  const document = useStore(openShot, (state) => state.state?.document);
  const chosen = useStore(view, (state) => state.mount);
  const part = useStore(view, (state) => state.part);
  const mount = document && workMount(document, chosen);
  if (!document || !mount) return null;
  return (
    <div className="flex flex-col gap-2 px-3 py-2">
      <MoveHead name={document.mounts.length > 1 ? mount.name : "Move"} />
      <MountBar document={document} mount={mount.id} />
      <Parts mount={mount} />
      {part === "pose" && <PosePart document={document} mount={mount} />}
      {part === "rig" && <RigForm shot={document} mount={mount} outside={outsidePose} />}
      {part === "give" && <GiveForm mount={mount} />}
      {part === "operator" && <OperatorForm shot={document} mount={mount} />}
      {part === "ride" && <RideForm shot={document} mount={mount} />}
    </div>
  );
}

const PARTS: { part: MountPart; hint: string }[] = [
  { part: "pose", hint: "Where it is and how it stands at the present frame; keys" },
  { part: "rig", hint: "Name, kind, length, pivot, order, poses copied and pasted" },
  { part: "give", hint: "Springs between it and what carries it" },
  { part: "operator", hint: "Who aims it at the subject; hold framing" },
  { part: "ride", hint: "An object of the set that carries it along" },
];

/** What of the mount is shown; a mark tells what is on. */
function Parts({ mount }: { mount: Mount }) {
  const part = useStore(view, (state) => state.part);
  const on = (each: MountPart) => each !== "pose" && each !== "rig" && Boolean(mount[each]);
  return (
    <div role="tablist" aria-label="Parts of the mount" className="flex gap-1 border-base-300 border-b">
      {PARTS.map(({ part: each, hint }) => (
        <button
          key={each}
          type="button"
          role="tab"
          aria-selected={part === each}
          title={hint}
          className={`cond -mb-px border-b-2 px-2 pb-0.5 text-[13px] ${part === each ? "border-primary font-semibold text-primary" : "border-transparent hover:text-primary"}`}
          onClick={() => view.setState({ part: each })}
        >
          {each}
          {on(each) && " •"}
        </button>
      ))}
    </div>
  );
}

/** The numbers of the pose, keys, placing. A keyed number gets a key where it is changed. */
function PosePart({ document, mount }: { document: Shot; mount: Mount }) {
  const { move, lenses_mm } = facts().forms;
  return (
    <>
      <div className="grid grid-cols-2 gap-x-4">
        {move.map((look) => {
          const field = look.field as MoveOrLens;
          const param = field === "focal_mm" ? document.focal_mm : mount[field];
          return param && <MoveRow key={field} look={look} at={addressOf(document, field)} param={param} />;
        })}
        <fieldset className="flex h-[25px] items-center gap-0.5" aria-label="Common lenses">
          {lenses_mm.map((focal) => (
            <button
              key={focal}
              type="button"
              className="num rounded-sm px-1 text-xs hover:bg-(--wash)"
              title={`${focal} mm`}
              onClick={() => takeLens(focal)}
            >
              {focal}
            </button>
          ))}
        </fieldset>
      </div>
      <SubjectBar document={document} />
      <PlaceBar document={document} />
      <PinBar document={document} />
    </>
  );
}
