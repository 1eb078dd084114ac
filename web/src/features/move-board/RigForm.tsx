import { ArrowLeft, ArrowRight, Trash2 } from "lucide-react";
import { useStore } from "zustand";
import { changeRig, copied, copyObject, copyPose, follow, moveMount, pastePose, removeMount } from "../../acts/mounts";
import type { Mount, Shot } from "../../api/types";
import { AddMountMenu } from "../../parts/AddMountMenu";
import { Fields } from "../../parts/Fields";
import { NameField } from "../../parts/NameField";
import { Menu } from "../../shared/Menu";
import { StackedNumber } from "../../shared/number";
import { useObjects } from "../../shared/useObjects";
import { serverTables } from "../../stores/serverTables";
import { view } from "../../stores/view";

/** Properties of a mount: name, kind, length, pivot, position in the chain; poses copied to it. */
export function RigForm({ shot, mount, outside }: { shot: Shot; mount: Mount; outside: () => WorldPose | null }) {
  return (
    <section className="flex flex-col gap-2" aria-label="Rig of the mount">
      <div className="flex items-center gap-1">
        <NameField key={mount.id + mount.name} at={`mount:${mount.id}.name`} name={mount.name} label="Mount name" />
        <span className="ml-auto" />
        <Order />
      </div>
      <div className="grid grid-cols-4 gap-x-3">
        <Fields at={`mount:${mount.id}`} document={mount} looks={serverTables().forms.mount} />
      </div>
      <Pivot mount={mount} />
      <Aim mount={mount.id} />
      <Poses shot={shot} mount={mount} outside={outside} />
      <p className="text-(--graphite) text-xs">
        Order, pivot and axes keep the picture. If that is not exactly possible, a bake is offered.
      </p>
    </section>
  );
}

type WorldPose = { position: [number, number, number]; angles: [number, number, number] };

const icon = "btn btn-ghost btn-xs btn-square";

/** The mount's place in the chain. */
function Order() {
  return (
    <>
      <button
        type="button"
        className={icon}
        aria-label="Towards the ground"
        title="Towards the ground; the picture stays"
        onClick={() => moveMount(-1)}
      >
        <ArrowLeft size={13} />
      </button>
      <button
        type="button"
        className={icon}
        aria-label="Towards the lens"
        title="Towards the lens; the picture stays"
        onClick={() => moveMount(1)}
      >
        <ArrowRight size={13} />
      </button>
      <AddMountMenu />
      <Menu
        label="Remove this mount"
        button={<Trash2 size={13} />}
        buttonClass={icon}
        listClass="w-72 bg-base-100"
        items={[
          {
            id: "keep",
            content: labeled("Remove, keep the picture", "Merge its motion into its neighbour"),
            run: () => removeMount(true),
          },
          {
            id: "drop",
            content: labeled("Remove with what it does", "The picture loses its part of the move"),
            run: () => removeMount(false),
          },
        ]}
      />
    </>
  );
}

const labeled = (title: string, told: string) => (
  <>
    <span className="cond block font-semibold">{title}</span>
    <span className="block text-(--graphite) text-xs">{told}</span>
  </>
);

const PIVOT = ["pivot right", "pivot up", "pivot back"];
const PIVOT_HINT = "The point that it turns about, in its own frame, metres; the picture stays";

/** The point that the mount turns about. */
function Pivot({ mount }: { mount: Mount }) {
  const pivot = mount.pivot_m ?? [0, 0, 0];
  const set = (n: number, value: number) =>
    changeRig({
      type: "set_pivot",
      mount: mount.id,
      pivot_m: pivot.map((each, at) => (at === n ? value : each)) as [number, number, number],
      bake: false,
    });
  return (
    <div className="grid grid-cols-4 gap-x-3">
      {PIVOT.map((title, n) => (
        <StackedNumber
          key={title}
          title={title}
          hint={PIVOT_HINT}
          value={pivot[n] ?? 0}
          unit="m"
          step={0.005}
          digits={3}
          onCommit={(value) => set(n, value)}
        />
      ))}
    </div>
  );
}

const TURNS = [
  ["pan_deg", 90, "pan 90°"],
  ["tilt_deg", 90, "tilt 90°"],
  ["roll_deg", 90, "roll 90°"],
] as const;

/** Re-orients its axes; its child is rotated back. */
function Aim({ mount }: { mount: string }) {
  const turn = (field: "pan_deg" | "tilt_deg" | "roll_deg", by: number) =>
    void changeRig({ type: "turn_mount", mount, pan_deg: 0, tilt_deg: 0, roll_deg: 0, bake: false, [field]: by });
  return (
    <div className="flex items-center gap-1 text-xs">
      <span className="cond text-(--graphite)">re-orient axes by</span>
      {TURNS.map(([field, by, title]) => (
        <button
          key={field}
          type="button"
          className="btn btn-xs"
          title="Re-orients its axes; the picture stays (Shift: back)"
          onClick={(event) => turn(field, event.shiftKey ? -by : by)}
        >
          {title}
        </button>
      ))}
    </div>
  );
}

const list = "mt-1 max-h-80 w-64 rounded-md border border-base-300 bg-base-100! p-1 shadow-lg";

/** Poses in the world: copied from a mount, the camera, the Set view's eye or an object, pasted on this mount, or followed. */
function Poses({ shot, mount, outside }: { shot: Shot; mount: Mount; outside: () => WorldPose | null }) {
  const pose = useStore(view, (state) => state.pose);
  const objects = useObjects(shot.set_id ?? null) ?? [];
  const otherMounts = shot.mounts.filter(({ id }) => id !== mount.id);
  const eye = () => {
    const viewPose = outside();
    if (viewPose) copied({ of: "the Set view's eye", position: viewPose.position, angles: viewPose.angles });
  };
  const line = (id: string, text: string, run: () => void) => ({
    id,
    content: <span className="cond">{text}</span>,
    run,
  });
  return (
    <div className="flex flex-wrap items-center gap-1 text-xs">
      <span className="cond text-(--graphite)">pose</span>
      <Menu
        label="Copy pose from …"
        button="Copy pose from …"
        buttonClass="btn btn-xs"
        listClass={list}
        items={[
          line("this", `${mount.name} (this mount)`, () => copyPose(mount.id)),
          line("camera", "the camera, including shake", () => copyPose(null)),
          line("eye", "the Set view's eye", eye),
          ...otherMounts.map(({ id, name }) => line(id, name, () => copyPose(id))),
          ...objects.map((each) => line(`object ${each}`, `object “${each}”`, () => void copyObject(each))),
        ]}
      />
      <button
        type="button"
        className="btn btn-xs"
        disabled={!pose}
        title={pose ? `Sets this mount to the copied pose of ${pose.of} at the playhead` : "Copy a pose first"}
        onClick={() => pastePose(false)}
      >
        Paste here
      </button>
      <button
        type="button"
        className="btn btn-xs"
        disabled={!pose}
        title={
          pose
            ? `Keys this mount to the copied pose of ${pose.of}, on every frame of the loop range or shot`
            : "Copy a pose first"
        }
        onClick={() => pastePose(true)}
      >
        Paste over loop range
      </button>
      <Menu
        label="Match pose of …"
        button="Match pose of …"
        buttonClass="btn btn-xs"
        listClass={list}
        items={[
          line("lens", "the lens of the bare move", () => void follow({ mount: null })),
          ...otherMounts.map(({ id, name }) => line(id, name, () => void follow({ mount: id }))),
          ...objects.map((each) => line(`object ${each}`, `object “${each}”`, () => void follow({ object: each }))),
        ]}
      />
    </div>
  );
}
