import { useStore } from "zustand";
import { selectCues } from "../../acts/cues";
import type { Command, Cue } from "../../api/types";
import { LaneRow, useLaneSize } from "../../shared/LaneRow";
import { timeScale } from "../../shared/timeScale";
import type { DragState } from "../../shared/useDragging";
import { useShownShot } from "../../shared/useShownShot";
import { useTrialDrag } from "../../shared/useTrialDrag";
import { commit } from "../../stores/editing";
import { pressed } from "../../stores/pressed";
import { pause, seek } from "../../stores/transport";
import { view } from "../../stores/view";
import { Flag } from "./Flag";

export const CUE_ROW_PX = 20;
const EDGE_PX = 8;
const MAX_FLAGS = 600;

type Shift = { cues: string[]; by: number; copy: boolean };

/** The cues as flags: click to go there, Shift to select more, drag to move in time, Alt-drag to copy. There when there are any. */
export function CueRow() {
  const { width } = useLaneSize();
  const { shot } = useShownShot();
  const cues = shot?.cues;
  const window = useStore(view, (each) => each.window);
  const selected = useStore(view, (each) => (each.board === "cue" ? each.cues : NONE));
  const x = timeScale(window, width);
  const { bind, live } = useTrialDrag<Cue, Shift>({
    press: ({ what, shiftKey, ctrlKey }: DragState<Cue>) => {
      const more = shiftKey || ctrlKey;
      selectCues(pressed(what.id, selected, more));
      pause();
      if (!more) seek(what.frame);
      return true;
    },
    live: ({ x: to, dx, altKey }) => {
      const by = Math.round(x.invert(to) - x.invert(to - dx));
      return by === 0 ? null : { cues: view.getState().cues, by, copy: altKey };
    },
    command: ({ cues: moved, by, copy }): Command => ({
      type: "move_cues",
      cues: moved,
      by_frames: by,
      copy_cues: copy,
    }),
  });
  if (!cues?.length) return null;
  const by = live && !live.value.copy ? live.value.by : 0;
  const shown = cues.filter(({ frame }) => x(frame) > -EDGE_PX && x(frame) < width + EDGE_PX).slice(0, MAX_FLAGS);
  return (
    <LaneRow
      role="region"
      aria-label="Cues"
      className="border-base-300 border-b"
      height={CUE_ROW_PX}
      data-testid="cues"
      headClass="cond px-3 text-(--graphite) text-xs leading-[19px]"
      head={`Cues · ${cues.length}`}
    >
      <div className="relative overflow-hidden" style={{ width }}>
        {shown.map((cue) => {
          const on = selected.includes(cue.id);
          return (
            <Flag
              key={cue.id}
              cue={cue}
              on={on}
              left={x(cue.frame + (on ? by : 0))}
              hold={bind(cue)}
              onChoose={() => selectCues([cue.id])}
              onMove={(frames) =>
                void commit({ type: "move_cues", cues: on ? selected : [cue.id], by_frames: frames, copy_cues: false })
              }
            />
          );
        })}
      </div>
    </LaneRow>
  );
}

const NONE: string[] = [];
