import { useStore } from "zustand";
import type { Shot } from "../../api/types";
import { useFollowedFrame } from "../../shared/useFollowedFrame";
import { type Motion, motion, rowOf } from "../../stores/motion";
import { openShot } from "../../stores/openShot";
import { selectLayer } from "../../stores/selection";
import { selectMount } from "../../stores/view";

const PREFIX = "moves:";
/** Parts that move the picture by less than this, in px per frame, are omitted. */
const MIN_PX = 0.02;
const SHADES = ["opacity-80", "opacity-55", "opacity-35", "opacity-65", "opacity-45"];

type Mover = { at: string; name: string; px: number };

/** Parts that move the picture at a frame, the largest first. */
function moversAt(shot: Shot, { arrays, rows }: Motion, frame: number): Mover[] {
  if (rows === 0) return [];
  const names = new Map<string, string>([["hold", "hold framing"]]);
  for (const { id, name } of shot.mounts) names.set(`mount:${id}`, name);
  for (const lane of shot.lanes ?? [])
    for (const clip of lane.clips ?? []) for (const { id, name } of clip.layers ?? []) names.set(`layer:${id}`, name);
  const found: Mover[] = [];
  for (const [key, { data }] of arrays) {
    if (!key.startsWith(PREFIX)) continue;
    const at = key.slice(PREFIX.length);
    const px = data[rowOf(frame)] ?? 0;
    const name = names.get(at);
    if (name && px >= MIN_PX) found.push({ at, name, px });
  }
  return found.sort((a, b) => b.px - a.px);
}

function select(at: string): void {
  const [kind, id = ""] = at.split(":");
  if (kind === "mount") selectMount(id);
  else if (kind === "layer") selectLayer(id);
}

/** Picture movement since the previous frame, in px: a part for each mount and layer; a click selects it. */
export function MoversBar() {
  const shot = useStore(openShot, (each) => each.state?.document);
  const state = useStore(motion);
  const frame = useFollowedFrame(true);
  const movers = shot ? moversAt(shot, state, frame) : [];
  const sum = movers.reduce((total, { px }) => total + px, 0);
  return (
    <fieldset
      className="flex h-1.5 min-w-0 shrink-0 overflow-hidden rounded-[2px] bg-base-300/60"
      aria-label="Parts that move the picture at this frame"
    >
      {movers.map(({ at, name, px }, n) => (
        <button
          key={at}
          type="button"
          tabIndex={-1}
          data-slim
          aria-label={`${name}: ${px.toFixed(1)} px`}
          title={`${name} moves the picture by ${px.toFixed(1)} px at this frame`}
          className={`h-full min-w-0 bg-base-content hover:bg-primary hover:opacity-100 ${SHADES[n % SHADES.length]}`}
          style={{ width: `${(100 * px) / sum}%` }}
          onClick={() => select(at)}
        />
      ))}
    </fieldset>
  );
}
