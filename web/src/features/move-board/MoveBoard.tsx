import { Tabs } from "radix-ui";
import { useStore } from "zustand";
import { addressOf, type MoveOrLens } from "../../acts/moving";
import type { Mount, Shot } from "../../api/types";
import { keepArrows } from "../../shared/byArrows";
import { openShot } from "../../stores/openShot";
import { workMount } from "../../stores/rig";
import { serverTables } from "../../stores/serverTables";
import { outsidePose } from "../../stores/stage";
import { type MountPart, view } from "../../stores/view";
import { GlassForm } from "./GlassForm";
import { LensRow } from "./LensRow";
import { MountBar } from "./MountBar";
import { MoveHead } from "./MoveHead";
import { MoveRow } from "./MoveRow";
import { OperatorForm } from "./OperatorForm";
import { PinBar } from "./PinBar";
import { PlaceBar } from "./PlaceBar";
import { RideForm } from "./RideForm";
import { RigForm } from "./RigForm";
import { SpringsForm } from "./SpringsForm";
import { SubjectBar } from "./SubjectBar";

/** A mount of the rig: its pose at the present frame, what it is, its springs, who aims it, what it rides on. */
export function MoveBoard() {
  const document = useStore(openShot, (state) => state.state?.document);
  const chosen = useStore(view, (state) => state.mount);
  const part = useStore(view, (state) => state.part);
  const mount = document && workMount(document, chosen);
  if (!document || !mount) return null;
  return (
    <Tabs.Root
      className="flex flex-col gap-2 px-3 py-2"
      value={part}
      onValueChange={(each) => view.setState({ part: each as MountPart })}
    >
      <MoveHead name={document.mounts.length > 1 ? mount.name : "Move"} />
      <MountBar document={document} mount={mount.id} />
      <Parts shot={document} mount={mount} />
      <Tabs.Content value={part} className="flex flex-col gap-2 outline-none" tabIndex={-1}>
        {part === "pose" && <PosePart document={document} mount={mount} />}
        {part === "rig" && <RigForm shot={document} mount={mount} outside={outsidePose} />}
        {part === "springs" && <SpringsForm mount={mount} />}
        {part === "operator" && <OperatorForm shot={document} mount={mount} />}
        {part === "ride" && <RideForm shot={document} mount={mount} />}
        {part === "glass" && <GlassForm shot={document} />}
      </Tabs.Content>
    </Tabs.Root>
  );
}

const PARTS: { part: MountPart; title: string; hint: string }[] = [
  { part: "pose", title: "pose", hint: "Position, angles and keys at this frame" },
  { part: "rig", title: "rig", hint: "Name, kind, length, pivot, order, poses copied and pasted" },
  { part: "springs", title: "springs", hint: "Springs to its parent" },
  { part: "operator", title: "operator", hint: "Operator and hold framing" },
  { part: "ride", title: "ride", hint: "Rides on an object of the set" },
  { part: "glass", title: "lens", hint: "Distortion and breathing of the lens" },
];

/** The visible part of the mount; a mark shows which are on. */
function Parts({ shot, mount }: { shot: Shot; mount: Mount }) {
  const { springs, operator, ride } = mount;
  const on: Partial<Record<MountPart, unknown>> = { springs, operator, ride, glass: shot.glass };
  return (
    <Tabs.List aria-label="Parts of the mount" className="flex gap-1 border-base-300 border-b">
      {PARTS.map(({ part: each, title, hint }) => (
        <Tabs.Trigger
          key={each}
          value={each}
          title={hint}
          onClick={keepArrows}
          className="cond -mb-px min-h-6 border-transparent border-b-2 px-2 text-[13px] hover:text-primary data-[state=active]:border-primary data-[state=active]:font-semibold data-[state=active]:text-primary"
        >
          {title}
          {Boolean(on[each]) && " •"}
        </Tabs.Trigger>
      ))}
    </Tabs.List>
  );
}

/** The numbers of the pose, keys, placing. A keyed number gets a key where it is changed. */
function PosePart({ document, mount }: { document: Shot; mount: Mount }) {
  const { move } = serverTables().forms;
  return (
    <>
      <div className="grid grid-cols-2 gap-x-4">
        {move.map((look) => {
          const field = look.field as MoveOrLens;
          const param = field === "focal_mm" ? document.focal_mm : mount[field];
          return param && <MoveRow key={field} look={look} at={addressOf(document, field)} param={param} />;
        })}
        <LensRow fps={document.fps.num / document.fps.den} />
      </div>
      <SubjectBar document={document} />
      <PlaceBar document={document} />
      <PinBar document={document} />
    </>
  );
}
