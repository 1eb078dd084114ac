import { ChevronRight } from "lucide-react";
import { useStore } from "zustand";
import { moveFrames } from "../../acts/moveFrames";
import { AddMountMenu } from "../../parts/AddMountMenu";
import { LaneRow, useLaneSize } from "../../shared/LaneRow";
import { openShot } from "../../stores/openShot";
import { selectPins, view } from "../../stores/view";
import { MOUNT_ROW_PX, MountRow } from "./MountRow";
import { MOVE_HEIGHT_PX, MoveLane } from "./MoveLane";

/** The rig: a row for each mount from the ground to the lens, or one row for the move in all. */
export function RigRows() {
  const shot = useStore(openShot, (each) => each.state?.document);
  const { width } = useLaneSize();
  const open = useStore(view, (each) => each.rigOpen);
  if (!shot) return null;
  const pins = moveFrames(shot).length;
  const keyCount = pins ? `${pins} keys` : "no keys (static)";
  const rig = shot.mounts.length > 1 ? `${shot.mounts.length} mounts · ` : "";
  if (!open)
    return (
      <LaneRow
        className="border-base-300 border-b"
        data-testid="rig"
        height={MOVE_HEIGHT_PX}
        head={<Head height={MOVE_HEIGHT_PX} open={false} title="Move" told={rig + keyCount} />}
      >
        <MoveLane width={width} shot={shot} />
      </LaneRow>
    );
  return (
    <section className="shrink-0 border-base-300 border-b" aria-label="Rig" data-testid="rig">
      <div className="flex">
        <Head height={HEAD_ROW_PX} open title="Rig" told={rig + keyCount} />
      </div>
      <div className="overflow-y-auto [scrollbar-width:none]" style={{ maxHeight: MAX_ROWS * MOUNT_ROW_PX }}>
        {shot.mounts.map((mount) => (
          <MountRow key={mount.id} shot={shot} mount={mount} />
        ))}
      </div>
    </section>
  );
}

const HEAD_ROW_PX = 22;
/** More mounts than this scroll. */
const MAX_ROWS = 6;

type HeadProps = { height: number; open: boolean; title: string; told: string };

/** Selects the whole move, folds the rig, puts a mount in. */
function Head({ height, open, title, told }: HeadProps) {
  const selected = useStore(view, (each) => each.board === "move" && each.pinsOf === null);
  return (
    <div
      className={`flex flex-1 items-center pr-1 pl-0.5 ${selected && !open ? "bg-(--wash)" : ""}`}
      style={{ height }}
    >
      <button
        type="button"
        aria-expanded={open}
        aria-label={open ? "Collapse the rig into one row" : "A row for each mount"}
        title={open ? "Collapse the rig" : "Expand the rig: one row per mount"}
        className="rounded-sm p-0.5 hover:bg-base-200"
        onClick={() => view.setState({ rigOpen: !open })}
      >
        <ChevronRight size={12} className={open ? "rotate-90" : ""} />
      </button>
      <button
        type="button"
        aria-pressed={selected}
        className={`flex min-w-0 flex-1 cursor-pointer text-left ${open ? "items-baseline gap-2" : "flex-col"} hover:bg-base-200/60`}
        onClick={() => selectPins([])}
      >
        <span className={`cond font-semibold text-[13px] ${selected ? "text-primary" : ""}`}>{title}</span>
        <span className="cond truncate text-(--graphite) text-xs">{told}</span>
      </button>
      <AddMountMenu />
    </div>
  );
}
