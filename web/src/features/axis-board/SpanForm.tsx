import { useStore } from "zustand";
import { useShallow } from "zustand/react/shallow";
import { limitsOf } from "../../shared/fields";
import { commit } from "../../stores/editing";
import { motion } from "../../stores/motion";
import { idsAlike } from "../../stores/selection";
import { PlainField } from "./PlainField";

const FIELDS = [
  { title: "from frame", field: "first_frame" },
  { title: "to frame", field: "last_frame" },
  { title: "ramp in", field: "ramp_in_frames" },
  { title: "ramp out", field: "ramp_out_frames" },
] as const;

/** When a layer is heard. What gives way to what is set, the server says. */
export function SpanForm({ id }: { id: string }) {
  const span = useStore(
    motion,
    useShallow(({ readings }) => readings?.layers.find(({ layer }) => layer === id)?.span),
  );
  if (!span) return null;
  return FIELDS.map(({ title, field }) => (
    <PlainField
      key={field}
      title={title}
      value={span[field]}
      limits={limitsOf(`set_span.${field}`)}
      onValue={(value) => {
        const at = idsAlike(id).map((each) => `layer:${each}`);
        return commit({ type: "set_span", at, by_frames: 0, whole: false, [field]: value });
      }}
    />
  ));
}
