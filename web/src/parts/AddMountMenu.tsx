import { Plus } from "lucide-react";
import { addMount, KINDS, takeRig } from "../acts/mounts";
import { Menu } from "../shared/Menu";
import { serverTables } from "../stores/serverTables";
import { MountGlyph } from "./MountGlyph";

/** Puts a mount behind the one on the board, or a ready-made rig between the move and the lens. */
export function AddMountMenu() {
  const rigs = serverTables().forms.rigs.map((rig) => ({
    id: `rig-${rig.name}`,
    content: (
      <>
        <span className="cond block font-semibold">Rig: {rig.name}</span>
        <span className="block text-(--graphite) text-xs">{rig.line}</span>
      </>
    ),
    run: () => takeRig(rig),
  }));
  const single = KINDS.map((kind) => ({
    id: kind,
    content: (
      <span className="flex items-center gap-2">
        <MountGlyph kind={kind} />
        <span className="cond">{kind}</span>
      </span>
    ),
    run: () => addMount(kind),
  }));
  return (
    <Menu
      label="Add to the rig"
      button={<Plus size={12} />}
      buttonClass="shrink-0 rounded-sm p-0.5 hover:bg-base-200"
      listClass="w-72 bg-base-100 text-base-content"
      items={[...rigs, ...single]}
    />
  );
}
