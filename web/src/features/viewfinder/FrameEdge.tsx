import { AROUND } from "../../shared/fit";

/** The edge of the picture while its surroundings are shown: what is outside is dimmed. */
export function FrameEdge() {
  const inset = `${(1 - 1 / AROUND) * 50}%`;
  return (
    <div className="absolute inset-0 overflow-hidden">
      <div
        className="absolute outline-1 outline-[#F4F0E6]/80"
        style={{ inset, boxShadow: "0 0 0 999px rgb(23 24 27 / 0.5)" }}
      />
    </div>
  );
}
