import type { Layer } from "../../api/types";
import { AXES, UNITS } from "../../shared/axes";
import { NumberField } from "../../shared/NumberField";
import { usePausedFrame } from "../../shared/usePausedFrame";
import { motion, rowOf } from "../../stores/motion";
import { cancelPreview, commit, preview } from "../../stores/session";

/** Values of the hand keys at the present frame; a change sets a key there. */
export function KeysForm({ layer }: { layer: Layer }) {
  const frame = usePausedFrame();
  if (layer.source.kind !== "keys") return null;
  const { tracks } = layer.source;
  const array = motion.getState().arrays.get(`layer:${layer.id}`);
  const weight = motion.getState().arrays.get(`weight:${layer.id}`)?.data[rowOf(frame)] ?? 1;
  return (
    <div className="grid grid-cols-4 gap-3">
      <p className="col-span-4 text-(--graphite) text-xs">
        At frame {frame}, added on top of everything. A change sets a key here.
      </p>
      {AXES.map((axis, column) => {
        const shown = (array?.data[rowOf(frame) * array.columns + column] ?? 0) / (weight || 1);
        const key = (value: number) => ({
          type: "set_keys" as const,
          keys: [{ at: `layer:${layer.id}.source.tracks.${axis}`, frame, value }],
        });
        const track = tracks[axis];
        return (
          <div key={axis} className="flex min-w-0 flex-col">
            <span className="cond text-(--graphite) text-xs">
              {axis} {track.state === "keyed" ? `· ${track.curve.keys.length} pins` : ""}
            </span>
            <span className="border-base-300 border-b">
              <NumberField
                label={`Key of ${axis}`}
                value={shown}
                unit={UNITS[axis]}
                speed={0.02}
                className="w-full text-left!"
                onPreview={(value) => preview(key(value))}
                onCommit={(value) => void commit(key(value))}
                onCancel={cancelPreview}
              />
            </span>
          </div>
        );
      })}
    </div>
  );
}
