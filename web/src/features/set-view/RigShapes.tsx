import { useFrame } from "@react-three/fiber";
import { useRef } from "react";
import type { Group } from "three";
import { useStore } from "zustand";
import type { MountKind } from "../../api/types";
import { motion, rowOf } from "../../stores/motion";
import { openShot } from "../../stores/openShot";
import { transport } from "../../stores/transport";
import { view } from "../../stores/view";
import { OUTSIDE } from "./layers";
import { useLine } from "./useLine";

const PAPER = "#F4F0E6";
const CHOSEN = "#2F4B8F";

/** The parts of the rig as light shapes, each where it is just now, joined from the ground to the lens. */
export function RigShapes() {
  const mounts = useStore(openShot, (state) => state.state?.document.mounts);
  const chosen = useStore(view, (state) => (state.board === "move" ? state.mount : null));
  const groups = useRef(new Map<string, Group>());
  const count = mounts?.length ?? 0;
  const join = useLine(count, PAPER);
  useFrame(() => {
    const state = motion.getState();
    const points = join?.geometry.getAttribute("position");
    let at = 0;
    for (const { id } of mounts ?? []) {
      const array = state.arrays.get(`rig:${id}`);
      const group = groups.current.get(id);
      if (!array || !group) continue;
      const from = rowOf(transport.getState().frame, state) * array.columns;
      const { data } = array;
      group.position.set(data[from] ?? 0, data[from + 1] ?? 0, data[from + 2] ?? 0);
      group.quaternion.set(data[from + 3] ?? 0, data[from + 4] ?? 0, data[from + 5] ?? 0, data[from + 6] ?? 1);
      points?.setXYZ(at++, group.position.x, group.position.y, group.position.z);
    }
    if (points) points.needsUpdate = true;
  });
  if (!mounts || count < 2) return null;
  return (
    <>
      {join && <primitive object={join} />}
      {mounts.map(({ id, kind }) => (
        <group
          key={id}
          ref={(group) => {
            if (group) groups.current.set(id, group);
            else groups.current.delete(id);
          }}
        >
          <mesh layers={OUTSIDE} renderOrder={9}>
            <Shape kind={kind ?? "free"} />
            <meshBasicMaterial
              color={chosen === id ? CHOSEN : PAPER}
              wireframe
              fog={false}
              transparent
              opacity={chosen === id ? 1 : 0.75}
            />
          </mesh>
        </group>
      ))}
    </>
  );
}

function Shape({ kind }: { kind: MountKind }) {
  if (kind === "ground") return <cylinderGeometry args={[0.16, 0.24, 0.08, 10, 1]} />;
  if (kind === "arm") return <boxGeometry args={[0.07, 0.07, 0.34, 1, 1, 2]} />;
  if (kind === "head") return <sphereGeometry args={[0.1, 8, 6]} />;
  if (kind === "hands") return <torusGeometry args={[0.12, 0.03, 5, 12, Math.PI * 1.4]} />;
  if (kind === "lens") return <cylinderGeometry args={[0.09, 0.09, 0.1, 12, 1]} />;
  return <boxGeometry args={[0.14, 0.14, 0.14]} />;
}
