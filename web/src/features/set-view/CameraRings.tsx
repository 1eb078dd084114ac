import { useFrame } from "@react-three/fiber";
import { useRef } from "react";
import { type Group, MathUtils, type PerspectiveCamera, Vector3 } from "three";
import { useStore } from "zustand";
import type { Ring } from "../../stores/stage";
import { stage } from "../../stores/stage";
import { view } from "../../stores/view";
import { OUTSIDE } from "./layers";
import { barePose } from "./poses";
import { MAST_SHARE, RING_INKS, RING_SHARE, RINGS, ringRadius } from "./rings";

const TUBE_SHARE = 0.018;
const HELD_TUBE_SHARE = 0.04;
const KNOB_SHARE = 0.085;
const ORDER = 50;

const position = new Vector3();

/** Rings to turn the camera by, and a mast to lift it by; only while the move is selected. */
export function CameraRings({ camera, pane }: { camera: PerspectiveCamera; pane: HTMLElement }) {
  const shown = useStore(view, (state) => state.board === "move");
  const heldPart = useStore(stage, (state) => state.grip?.part ?? null);
  const all = useRef<Group>(null);
  const panned = useRef<Group>(null);
  const tilted = useRef<Group>(null);
  useFrame(() => {
    const pose = barePose();
    if (!pose || !all.current || !panned.current || !tilted.current) return;
    const { data, at } = pose;
    position.set(data[at] ?? 0, data[at + 1] ?? 0, data[at + 2] ?? 0);
    all.current.position.copy(position);
    all.current.scale.setScalar(ringRadius(camera, position, pane.clientHeight));
    panned.current.rotation.y = MathUtils.degToRad(data[at + 3] ?? 0);
    tilted.current.rotation.x = MathUtils.degToRad(data[at + 4] ?? 0);
  });
  if (!shown) return null;
  const ring = (name: Ring) => (
    <mesh layers={OUTSIDE} renderOrder={ORDER} rotation={TURNS[name]}>
      <torusGeometry args={[RING_SHARE[name], heldPart === name ? HELD_TUBE_SHARE : TUBE_SHARE, 6, 64]} />
      <meshBasicMaterial color={RING_INKS[name]} depthTest={false} fog={false} transparent />
    </mesh>
  );
  return (
    <group ref={all}>
      {ring(RINGS[0] ?? "pan")}
      <group ref={panned}>
        {ring("tilt")}
        <group ref={tilted}>{ring("roll")}</group>
      </group>
      <mesh layers={OUTSIDE} renderOrder={ORDER} position-y={MAST_SHARE / 2}>
        <cylinderGeometry args={[TUBE_SHARE, TUBE_SHARE, MAST_SHARE, 6]} />
        <meshBasicMaterial color={RING_INKS.height} depthTest={false} fog={false} transparent />
      </mesh>
      <mesh layers={OUTSIDE} renderOrder={ORDER} position-y={MAST_SHARE}>
        <sphereGeometry args={[heldPart === "height" ? KNOB_SHARE * 1.4 : KNOB_SHARE, 12, 8]} />
        <meshBasicMaterial color={RING_INKS.height} depthTest={false} fog={false} transparent />
      </mesh>
    </group>
  );
}

/** A torus is in its own xy plane; this rotates it about its axis. */
const TURNS: Record<Ring, [number, number, number]> = {
  pan: [Math.PI / 2, 0, 0],
  tilt: [0, Math.PI / 2, 0],
  roll: [0, 0, 0],
};
