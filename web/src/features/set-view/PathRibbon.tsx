import { useEffect, useMemo } from "react";
import { DoubleSide, type Line } from "three";
import { useStore } from "zustand";
import { moveFrames } from "../../acts/moveFrames";
import type { MotionArray } from "../../api/motion";
import { useMotionArray } from "../../shared/useMotionArray";
import { motion, rowOf } from "../../stores/motion";
import { openShot } from "../../stores/openShot";
import { OUTSIDE } from "./layers";
import { positions, ribbon } from "./pathGeometry";
import { useLine } from "./useLine";

const PIN_HEIGHT_M = 0.34;

/** The shaken lens as a thin line. */
function useTrace(pose: MotionArray | undefined, rows: number): Line | null {
  const points = useMemo(() => (pose ? positions(pose, rows) : null), [pose, rows]);
  const line = useLine((points?.length ?? 0) / 3, "#20242F");
  useEffect(() => {
    const attribute = line?.geometry.getAttribute("position");
    if (!attribute || !points) return;
    attribute.array.set(points);
    attribute.needsUpdate = true;
  }, [line, points]);
  return line;
}

/** The move as a ribbon with a pin at each key, and the shaken lens as a thin line. */
export function PathRibbon() {
  const document = useStore(openShot, (state) => state.state?.document);
  const { rows } = motion.getState();
  const bare = useMotionArray("bare");
  const pose = useMotionArray("pose");
  const strip = useMemo(() => (bare ? ribbon(positions(bare, rows)) : null), [bare, rows]);
  const trace = useTrace(pose, rows);
  useEffect(() => () => strip?.dispose(), [strip]);
  const pins = document && bare ? moveFrames(document).map((frame) => rowOf(frame) * bare.columns) : [];
  return (
    <group>
      {strip && (
        <mesh geometry={strip} layers={OUTSIDE} frustumCulled={false}>
          <meshBasicMaterial color="#3f62b8" side={DoubleSide} fog={false} transparent opacity={0.85} />
        </mesh>
      )}
      {trace && <primitive object={trace} />}
      {bare &&
        pins.slice(0, 60).map((at) => (
          <group key={at} position={[bare.data[at] ?? 0, bare.data[at + 1] ?? 0, bare.data[at + 2] ?? 0]}>
            <mesh layers={OUTSIDE} position-y={PIN_HEIGHT_M / 2}>
              <cylinderGeometry args={[0.008, 0.008, PIN_HEIGHT_M, 6]} />
              <meshBasicMaterial color="#F4F0E6" fog={false} />
            </mesh>
            <mesh layers={OUTSIDE} position-y={PIN_HEIGHT_M}>
              <sphereGeometry args={[0.05, 12, 8]} />
              <meshBasicMaterial color="#F4F0E6" fog={false} />
            </mesh>
          </group>
        ))}
    </group>
  );
}
