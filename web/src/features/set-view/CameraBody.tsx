import { useFrame } from "@react-three/fiber";
import { useMemo, useRef } from "react";
import { BufferAttribute, BufferGeometry, type Group, type LineSegments, MathUtils } from "three";
import { stage } from "../../stores/stage";
import { OUTSIDE } from "./layers";
import { placeAtLens, shownPose, VFOV } from "./poses";

const FRUSTUM_M = 1.5;

function frustum(): BufferGeometry {
  const geometry = new BufferGeometry();
  geometry.setAttribute("position", new BufferAttribute(new Float32Array(5 * 3), 3));
  geometry.setIndex([0, 1, 0, 2, 0, 3, 0, 4, 1, 2, 2, 3, 3, 4, 4, 1]);
  return geometry;
}

/** The camera as seen from outside: a body, a lens, and the edges of what it sees. */
export function CameraBody() {
  const group = useRef<Group>(null);
  const lines = useRef<LineSegments>(null);
  const geometry = useMemo(frustum, []);
  useFrame(() => {
    const pose = shownPose();
    if (!pose || !group.current) return;
    placeAtLens(group.current, pose.data, pose.at);
    const h = FRUSTUM_M * Math.tan(MathUtils.degToRad(pose.data[pose.at + VFOV] ?? 40) / 2);
    const w = h * stage.getState().aspect;
    const position = geometry.getAttribute("position");
    position.setXYZ(1, -w, -h, -FRUSTUM_M);
    position.setXYZ(2, w, -h, -FRUSTUM_M);
    position.setXYZ(3, w, h, -FRUSTUM_M);
    position.setXYZ(4, -w, h, -FRUSTUM_M);
    position.needsUpdate = true;
  });
  return (
    <group ref={group}>
      <mesh layers={OUTSIDE} position={[0, 0, 0.16]} castShadow>
        <boxGeometry args={[0.2, 0.17, 0.3]} />
        <meshLambertMaterial color="#1b1c20" />
      </mesh>
      <mesh layers={OUTSIDE} position={[0.02, 0.13, 0.18]}>
        <boxGeometry args={[0.08, 0.08, 0.2]} />
        <meshLambertMaterial color="#2b2d33" />
      </mesh>
      <mesh layers={OUTSIDE} rotation-x={Math.PI / 2} position={[0, 0, -0.06]}>
        <cylinderGeometry args={[0.075, 0.06, 0.16, 14]} />
        <meshLambertMaterial color="#33353c" />
      </mesh>
      <lineSegments ref={lines} layers={OUTSIDE} geometry={geometry} frustumCulled={false}>
        <lineBasicMaterial color="#F4F0E6" fog={false} />
      </lineSegments>
    </group>
  );
}
