import { useCallback } from "react";
import { useStore } from "zustand";
import type { Mount, Shot } from "../../api/types";
import { MountGlyph } from "../../parts/MountGlyph";
import { LaneRow, useLaneSize } from "../../shared/LaneRow";
import { LetterSwitch } from "../../shared/LetterSwitch";
import { timeScale } from "../../shared/timeScale";
import { usePending } from "../../shared/usePending";
import { commit } from "../../stores/editing";
import { selectMount, view } from "../../stores/view";
import { drawMount } from "./drawMount";
import { LaneCanvas } from "./LaneCanvas";
import { MovePins } from "./MovePins";

export const MOUNT_ROW_PX = 24;

type MountRowProps = { shot: Shot; mount: Mount };

/** A mount of the rig: its pins, its picture movement, and the framing error where an operator aims it. */
export function MountRow({ shot, mount }: MountRowProps) {
  const { width } = useLaneSize();
  const window = useStore(view, (state) => state.window);
  const chosen = useStore(view, (state) => state.board === "move" && state.mount === mount.id && state.pinsOf !== null);
  const aims = Boolean(mount.operator);
  const draw = useCallback(
    (context: CanvasRenderingContext2D, x: ReturnType<typeof timeScale>, canvas: HTMLCanvasElement) =>
      drawMount(context, x, canvas, mount.id, aims),
    [mount.id, aims],
  );
  return (
    <LaneRow
      className="border-base-300/60 border-t"
      height={MOUNT_ROW_PX}
      data-mount={mount.id}
      headClass={`flex items-center gap-1 pr-2 pl-3 ${chosen ? "bg-(--wash) shadow-[inset_3px_0_0_var(--color-primary)]" : ""}`}
      head={
        <>
          <MountGlyph kind={mount.kind ?? "free"} />
          <button
            type="button"
            aria-pressed={chosen}
            title={`${mount.name}: ${on(mount)}`}
            className={`cond min-w-0 truncate text-left font-semibold text-[13px] ${chosen ? "text-primary" : ""}`}
            onClick={() => selectMount(mount.id)}
          >
            {mount.name}
          </button>
          <span className="cond min-w-0 flex-1 truncate text-(--graphite) text-[10px]">{short(mount)}</span>
          <Switch mount={mount} field="mute" title="Freeze" letter="M" />
          <Switch mount={mount} field="solo" title="Freeze all but" letter="S" />
        </>
      }
    >
      <div className="relative" style={{ width }}>
        <button
          type="button"
          aria-label={`Select the mount ${mount.name}`}
          tabIndex={-1}
          className="block cursor-pointer"
          onClick={() => selectMount(mount.id)}
        >
          <LaneCanvas
            width={width}
            height={MOUNT_ROW_PX - 1}
            label={aims ? `Framing error, ${mount.name}` : `Picture movement by ${mount.name}, in px`}
            array={aims ? "framing" : `moves:mount:${mount.id}`}
            draw={draw}
          />
        </button>
        <MovePins shot={shot} x={timeScale(window, width)} width={width} mount={mount.id} low />
      </div>
    </LaneRow>
  );
}

const PARTS = [
  ["operator", "operator"],
  ["springs", "springs"],
  ["ride", "rides"],
] as const;

const marks = (mount: Mount): string =>
  PARTS.filter(([field]) => mount[field])
    .map(([, told]) => told)
    .join(" · ");

/** Shortened to the available width. */
const short = (mount: Mount): string => {
  const [first, ...more] = marks(mount).split(" · ");
  return `${first ?? ""}${more.length ? " +" : ""}`;
};

const on = (mount: Mount): string => [mount.kind, marks(mount)].filter(Boolean).join(", ");

type SwitchProps = { mount: Mount; field: "mute" | "solo"; title: string; letter: string };

function Switch({ mount, field, title, letter }: SwitchProps) {
  const at = `mount:${mount.id}.${field}`;
  const on = usePending(at, mount[field] ?? false);
  const flip = () => void commit({ type: "set_values", values: [{ at, value: !on }] });
  return <LetterSwitch at={at} letter={letter} title={`${title} ${mount.name}`} on={on} low onFlip={flip} />;
}
