import { useEffect, useMemo } from "react";
import { DoubleSide, type Line } from "three";
import { useStore } from "zustand";
import { moveFrames } from "../../acts/moveFrames";
import type { MotionArray } from "../../api/motion";
import { useMotionArray } from "../../shared/useMotionArray";
import { motion, rowOf } from "../../stores/motion";
import { openShot } from "../../stores/openShot";
import { OUTSIDE } from "./layers";
import { PathPins } from "./PathPins";
import { pinsApart, positions, ribbon } from "./pathGeometry";
import { useLine } from "./useLine";

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
  const pins = useMemo(() => {
    if (!document || !bare) return [];
    const rowsAt = moveFrames(document).map((frame) => rowOf(frame) * bare.columns);
    return pinsApart(bare, rowsAt);
  }, [document, bare]);
  return (
    <group>
      {strip && (
        <mesh geometry={strip} layers={OUTSIDE} frustumCulled={false}>
          <meshBasicMaterial color="#3f62b8" side={DoubleSide} fog={false} transparent opacity={0.85} />
        </mesh>
      )}
      {trace && <primitive object={trace} />}
      {bare && pins.length > 0 && <PathPins path={bare} at={pins} />}
    </group>
  );
}
