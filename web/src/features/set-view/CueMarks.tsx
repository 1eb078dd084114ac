import { useStore } from "zustand";
import { motion } from "../../stores/motion";
import { openShot } from "../../stores/openShot";
import { view } from "../../stores/view";
import { OUTSIDE } from "./layers";

const SIZE_M = 0.16;
const MAX_MARKS = 200;

/** Positions of cues in the set, in the outside view; selected ones in ink blue. */
export function CueMarks() {
  const cues = useStore(openShot, (each) => each.state?.document.cues);
  const selected = useStore(view, (each) => (each.board === "cue" ? each.cues : null));
  const cuePlaces = useStore(motion, (each) => each.readings?.cue_places);
  const places = (cues ?? []).map(({ id, place_m }) => ({ id, place: place_m ?? cuePlaces?.[id] }));
  const placed = places.filter(({ place }) => place).slice(0, MAX_MARKS);
  return placed.map(({ id, place }) => (
    <mesh key={id} layers={OUTSIDE} position={place ?? [0, 0, 0]} renderOrder={10}>
      <octahedronGeometry args={[SIZE_M]} />
      <meshBasicMaterial
        color={selected?.includes(id) ? "#2F4B8F" : "#F4F0E6"}
        fog={false}
        depthTest={false}
        transparent
      />
    </mesh>
  ));
}
