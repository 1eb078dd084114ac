import { useRef, useState } from "react";
import type { Command } from "../../api/types";
import { idsAlike } from "../../stores/selection";
import { cancelPreview, commit, preview } from "../../stores/session";
import { transport } from "../../stores/transport";
import { toWeight, toY } from "./hullGeometry";

const GRIP_PX = 8;

/** The edge of the hull of a weight that has no keys: dragged up and down, it sets the weight. */
export function HullLevel(props: { id: string; name: string; weight: number; width: number; height: number }) {
  const { id, name, weight, width, height } = props;
  const [live, setLive] = useState<number | null>(null);
  const held = useRef(false);
  const set = (value: number): Command => ({
    type: "set_numbers",
    frame: transport.getState().frame,
    values: idsAlike(id).map((each) => ({ at: `layer:${each}.weight`, value })),
    key: false,
  });
  const weightAt = (event: React.PointerEvent) =>
    toWeight(event.clientY - (event.currentTarget.parentElement?.getBoundingClientRect().top ?? 0), height);
  const y = toY(live ?? weight, height);
  return (
    <button
      type="button"
      data-level={id}
      tabIndex={-1}
      aria-label={`Weight of ${name}: drag up or down`}
      title={`Weight ${Math.round((live ?? weight) * 100)} %: drag up or down; double-click on the lane sets a key`}
      className="absolute left-0 z-[4] cursor-ns-resize touch-none hover:bg-primary/20"
      style={{ top: Math.max(0, y - GRIP_PX / 2), width, height: GRIP_PX }}
      onPointerDown={(event) => {
        if (event.button !== 0) return;
        event.currentTarget.setPointerCapture(event.pointerId);
        held.current = true;
      }}
      onPointerMove={(event) => {
        if (!held.current) return;
        const next = weightAt(event);
        if (next === live) return;
        setLive(next);
        preview(set(next));
      }}
      onPointerUp={() => {
        held.current = false;
        if (live !== null) void commit(set(live)).finally(() => setLive(null));
      }}
      onPointerCancel={() => {
        held.current = false;
        setLive(null);
        cancelPreview();
      }}
    />
  );
}
