import { useStore } from "zustand";
import { useShallow } from "zustand/react/shallow";
import { limitsOf } from "../shared/fields";
import { commit } from "../stores/editing";
import { motion } from "../stores/motion";
import { idsAlike } from "../stores/selection";
import { PlainField } from "./PlainField";

const FIELDS = [
  { title: "from frame", field: "first_frame" },
  { title: "to frame", field: "last_frame" },
  { title: "ramp in", field: "ramp_in_frames" },
  { title: "ramp out", field: "ramp_out_frames" },
] as const;

/** Active range of a layer or clip. The server resolves conflicts with the changed value. */
export function SpanForm({ at }: { at: string }) {
  const [kind, id = ""] = at.split(":");
  const span = useStore(
    motion,
    useShallow(({ readings }) =>
      kind === "clip"
        ? readings?.clips.find(({ clip }) => clip === id)?.span
        : readings?.layers.find(({ layer }) => layer === id)?.span,
    ),
  );
  if (!span) return null;
  const places = () => (kind === "layer" ? idsAlike(id).map((each) => `layer:${each}`) : [at]);
  return FIELDS.map(({ title, field }) => (
    <PlainField
      key={field}
      title={title}
      value={span[field]}
      limits={limitsOf(`set_span.${field}`)}
      onValue={(value) => commit({ type: "set_span", at: places(), by_frames: 0, whole: false, [field]: value })}
    />
  ));
}
