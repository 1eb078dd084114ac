import { useStore } from "zustand";
import type { Clip } from "../../api/types";
import { timeScale } from "../../shared/timeScale";
import { usePending } from "../../shared/usePending";
import { selectClip } from "../../stores/selection";
import { view } from "../../stores/view";
import { SpanGrips } from "./SpanGrips";
import { useClipSpan } from "./useLayerReading";

const FOOT_PX = 3;

type ClipBarProps = { clip: Clip; open: boolean; width: number; height: number };

/** A clip on its lane: where it lies says when. A click selects it and shows its layers; selected, it is dragged, trimmed and ramped. */
export function ClipBar({ clip, open, width, height }: ClipBarProps) {
  const window = useStore(view, (each) => each.window);
  const selected = useStore(view, (each) => each.board === "clip" && each.clip === clip.id);
  const mute = usePending(`clip:${clip.id}.mute`, clip.mute);
  const span = useClipSpan(clip.id);
  if (!span) return null;
  const x = timeScale(window, width);
  const left = Math.max(0, x(span.first_frame));
  const right = Math.min(width, x(span.last_frame));
  if (right <= left) return null;
  const paper = selected ? "border-primary bg-(--wash) text-primary" : "border-base-300 bg-base-200 text-(--graphite)";
  return (
    <>
      <button
        type="button"
        aria-pressed={selected}
        aria-label={`Clip ${clip.name}`}
        data-clip={clip.id}
        data-frames={` · frames ${Math.round(span.first_frame)}–${Math.round(span.last_frame)}`}
        title={`${clip.name}, frames ${span.first_frame} to ${span.last_frame}: click to select`}
        className={`cond absolute top-[3px] truncate rounded-t-md border border-b-0 px-2 text-left text-[11px] leading-[15px] after:content-[attr(data-frames)] ${paper} ${mute ? "line-through" : ""} ${open ? "font-semibold" : ""}`}
        style={{ left, width: right - left, height: height - FOOT_PX }}
        onClick={() => selectClip(clip.id)}
      >
        {clip.name}
      </button>
      {selected && (
        <SpanGrips
          at={() => [`clip:${clip.id}`]}
          span={span}
          name={`clip ${clip.name}`}
          width={width}
          height={height}
        />
      )}
    </>
  );
}
