import { useLayoutEffect, useRef } from "react";
import { type InstancedMesh, Matrix4 } from "three";
import type { MotionArray } from "../../api/motion";
import { OUTSIDE } from "./layers";

const PIN_HEIGHT_M = 0.34;
const INK = "#F4F0E6";

/** A pin at each key of the move, all in two drawings. `at`: where their poses begin in the path. */
export function PathPins({ path, at }: { path: MotionArray; at: number[] }) {
  const stems = useRef<InstancedMesh>(null);
  const heads = useRef<InstancedMesh>(null);
  useLayoutEffect(() => {
    const placed = new Matrix4();
    for (const [mesh, up] of [
      [stems.current, PIN_HEIGHT_M / 2],
      [heads.current, PIN_HEIGHT_M],
    ] as const) {
      if (!mesh) continue;
      for (const [n, row] of at.entries())
        mesh.setMatrixAt(
          n,
          placed.makeTranslation(path.data[row] ?? 0, (path.data[row + 1] ?? 0) + up, path.data[row + 2] ?? 0),
        );
      mesh.instanceMatrix.needsUpdate = true;
    }
  }, [path, at]);
  return (
    <>
      <instancedMesh
        key={`stems ${at.length}`}
        ref={stems}
        args={[undefined, undefined, at.length]}
        layers={OUTSIDE}
        frustumCulled={false}
      >
        <cylinderGeometry args={[0.008, 0.008, PIN_HEIGHT_M, 6]} />
        <meshBasicMaterial color={INK} fog={false} />
      </instancedMesh>
      <instancedMesh
        key={`heads ${at.length}`}
        ref={heads}
        args={[undefined, undefined, at.length]}
        layers={OUTSIDE}
        frustumCulled={false}
      >
        <sphereGeometry args={[0.05, 12, 8]} />
        <meshBasicMaterial color={INK} fog={false} />
      </instancedMesh>
    </>
  );
}
