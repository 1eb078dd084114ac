import { useStore } from "zustand";
import type { Clip } from "../../api/types";
import { timeScale } from "../../shared/timeScale";
import { usePending } from "../../shared/usePending";
import { selectClip } from "../../stores/selection";
import { view } from "../../stores/view";
import { SpanGrips } from "./SpanGrips";
import { useClipSpan } from "./useLayerReading";
import { WeightEditor } from "./WeightEditor";

const FOOT_PX = 3;
/** Lower bars show no points and no level. */
const ROOM_PX = 30;

type ClipBarProps = { clip: Clip; open: boolean; width: number; height: number };

/** A clip on its lane: where it lies says when. A click selects it and shows its layers; selected, it is dragged, trimmed and ramped, and its
 * amount is dragged or drawn on it. */
export function ClipBar({ clip, open, width, height }: ClipBarProps) {
  const window = useStore(view, (each) => each.window);
  const selected = useStore(view, (each) => each.board === "clip" && each.clip === clip.id);
  const mute = usePending(`clip:${clip.id}.mute`, clip.mute);
  const span = useClipSpan(clip.id);
  if (!span) return null;
  const x = timeScale(window, width);
  const startX = Math.max(0, x(span.first_frame));
  const right = Math.min(width, x(span.last_frame));
  if (right <= startX) return null;
  const paper = selected ? "border-primary bg-(--wash)/35 text-primary" : "border-base-300 bg-base-200/30";
  const size = { width, height };
  return (
    <>
      <button
        type="button"
        aria-pressed={selected}
        aria-label={`Clip ${clip.name}`}
        data-clip={clip.id}
        title={`${clip.name}, frames ${span.first_frame} to ${span.last_frame}: click to select`}
        className={`absolute top-[2px] overflow-hidden rounded-t-md border border-b-0 text-left ${paper}`}
        style={{ left: startX, width: right - startX, height: height - FOOT_PX }}
        onClick={() => selectClip(clip.id)}
      >
        <span
          data-frames={` · frames ${Math.round(span.first_frame)}–${Math.round(span.last_frame)}`}
          className={`cond absolute top-0 left-0 max-w-full truncate rounded-br-sm bg-base-200/90 px-2 text-[11px] leading-[14px] after:content-[attr(data-frames)] ${selected ? "" : "text-(--graphite)"} ${mute ? "line-through" : ""} ${open ? "font-semibold" : ""}`}
        >
          {clip.name}
        </span>
      </button>
      {selected && <SpanGrips at={() => [`clip:${clip.id}`]} span={span} name={`clip ${clip.name}`} {...size} />}
      {selected && height > ROOM_PX && (
        <WeightEditor
          at={`clip:${clip.id}.amount`}
          alike={() => [`clip:${clip.id}.amount`]}
          title={`Amount of ${clip.name}`}
          param={clip.amount}
          left={startX}
          levelWidth={right - startX}
          {...size}
        />
      )}
    </>
  );
}
