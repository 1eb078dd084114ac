import { Rows4 } from "lucide-react";
import { useEffect } from "react";
import { useStore } from "zustand";
import { timeScale, zoomed } from "../../shared/timeScale";
import { useSize } from "../../shared/useSize";
import { motion } from "../../stores/motion";
import { clipsOf, layersOf, session } from "../../stores/session";
import { transport } from "../../stores/transport";
import { selectPins, setCompact, view } from "../../stores/view";
import { Sheet } from "../curves";
import { ClipGroup } from "./ClipGroup";
import { EmptyStack } from "./EmptyStack";
import { LayerWave } from "./LayerWave";
import { MOVE_HEIGHT_PX, MoveLane } from "./MoveLane";
import { moveFrames } from "./moveFrames";
import { Playhead } from "./Playhead";
import { Ruler } from "./Ruler";
import { useCompact } from "./rowHeight";

const HEAD_PX = 168;
const SUM_HEIGHT_PX = 48;

/** Wheel zooms about the pointer, with Shift or sideways it pans. */
function useWheel(ref: React.RefObject<HTMLDivElement | null>, width: number): void {
  useEffect(() => {
    const element = ref.current;
    if (!element) return;
    const onWheel = (event: WheelEvent) => {
      const state = view.getState();
      const { first, last } = transport.getState();
      const across = event.shiftKey ? event.deltaY : event.deltaX;
      const overWaves = event.clientX - element.getBoundingClientRect().left > HEAD_PX;
      if (
        !overWaves ||
        (!event.ctrlKey && !event.shiftKey && Math.abs(event.deltaX) < Math.abs(event.deltaY) && !event.altKey)
      )
        return;
      event.preventDefault();
      if (Math.abs(across) > 0 && !event.ctrlKey) {
        const by = ((state.window[1] - state.window[0]) * across) / Math.max(width, 1);
        view.setState({ window: [state.window[0] + by, state.window[1] + by] });
        return;
      }
      const x = event.clientX - element.getBoundingClientRect().left - HEAD_PX;
      const about = timeScale(state.window, width).invert(x);
      view.setState({ window: zoomed(state.window, about, Math.exp(event.deltaY * 0.002), first, last) });
    };
    element.addEventListener("wheel", onWheel, { passive: false });
    return () => element.removeEventListener("wheel", onWheel);
  }, [ref, width]);
}

/** The lanes: move, layers, sum, under one ruler. */
export function Lanes() {
  const [ref, size] = useSize<HTMLDivElement>();
  const state = useStore(session, (each) => each.state);
  const selected = useStore(view, (each) => (each.board === "layer" ? each.layer : null));
  const anySolo = useStore(session, ({ state: now, pending }) =>
    now ? layersOf(now).some((layer) => pending[`layer:${layer.id}.solo`] ?? layer.solo) : false,
  );
  const sheet = useStore(view, (each) => each.sheet);
  const width = Math.max(0, size.width - HEAD_PX);
  const compact = useCompact(state ? layersOf(state).length : 0);
  useWheel(ref, width);
  if (!state) return null;
  const layers = layersOf(state);
  const pins = moveFrames(state.document).length;
  return (
    <div ref={ref} className="relative flex h-full flex-col overflow-hidden" data-testid="lanes">
      <div className="flex shrink-0">
        <SheetSwitch compact={compact} />
        <Ruler width={width} />
      </div>
      <div className="flex shrink-0 border-base-300 border-b">
        <MoveHead detail={pins ? `${pins} pins` : "no keys: it stands still"} />
        <MoveLane width={width} shot={state.document} />
      </div>
      {sheet ? (
        <Sheet width={width} headPx={HEAD_PX} />
      ) : (
        <div className="min-h-0 flex-1 overflow-x-hidden overflow-y-auto">
          {layers.length === 0 && <EmptyStack left={HEAD_PX} />}
          {clipsOf(state)
            .reverse()
            .map((clip) => (
              <ClipGroup
                key={clip.id}
                clip={clip}
                width={width}
                headPx={HEAD_PX}
                selected={selected}
                compact={compact}
                anySolo={anySolo}
              />
            ))}
        </div>
      )}
      <div className="flex shrink-0 border-base-300 border-t bg-base-200">
        <SumHead />
        <LayerWave width={width} height={SUM_HEIGHT_PX} layer={null} />
      </div>
      <Playhead width={width} left={HEAD_PX} />
    </div>
  );
}

/** How far the picture swings in all; it re-renders alone when the readings change. */
function SumHead() {
  const total = useStore(motion, (each) => each.readings?.total_swing_px);
  return (
    <div
      className="flex shrink-0 flex-col justify-center border-base-300 border-r px-3"
      style={{ height: SUM_HEIGHT_PX, width: HEAD_PX }}
    >
      <span className="cond font-semibold text-[13px]">Sum</span>
      <span className="cond text-(--graphite) text-xs">
        {total !== undefined ? `${total.toFixed(0)} px swing` : ""}
      </span>
    </div>
  );
}

function MoveHead({ detail }: { detail: string }) {
  const selected = useStore(view, (each) => each.board === "move");
  return (
    <button
      type="button"
      aria-pressed={selected}
      className={`flex shrink-0 cursor-pointer flex-col justify-center border-base-300 border-r px-3 text-left ${selected ? "bg-(--wash)" : "hover:bg-base-200/60"}`}
      style={{ height: MOVE_HEIGHT_PX, width: HEAD_PX }}
      onClick={() => selectPins([])}
    >
      <span className={`cond font-semibold text-[13px] ${selected ? "text-primary" : ""}`}>Move</span>
      <span className="cond text-(--graphite) text-xs">{detail}</span>
    </button>
  );
}

/** What lies under the ruler: lanes, curves, or the frame table. */
function SheetSwitch({ compact }: { compact: boolean }) {
  const sheet = useStore(view, (each) => each.sheet);
  return (
    <fieldset
      className="flex h-[26px] shrink-0 items-center gap-0.5 border-base-300 border-r px-2"
      style={{ width: HEAD_PX }}
      aria-label="Lanes, curves or table"
    >
      {([null, "curves", "table"] as const).map((each) => (
        <button
          key={each ?? "lanes"}
          type="button"
          aria-pressed={sheet === each}
          className={`cond rounded-sm px-1.5 text-xs ${sheet === each ? "bg-(--wash) text-primary" : "hover:bg-base-200"}`}
          onClick={() => view.setState({ sheet: each })}
        >
          {each ?? "lanes"}
        </button>
      ))}
      <button
        type="button"
        aria-pressed={compact}
        aria-label="Compact rows"
        title={
          compact
            ? "Rows are compact, but for the one on the board; click for tall ones"
            : "Compact rows, to see more layers"
        }
        className={`ml-auto rounded-sm p-0.5 ${compact ? "bg-(--wash) text-primary" : "hover:bg-base-200"}`}
        onClick={() => setCompact(!compact)}
      >
        <Rows4 size={13} />
      </button>
    </fieldset>
  );
}
