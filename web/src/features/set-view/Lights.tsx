import { useFrame } from "@react-three/fiber";
import { useCallback, useEffect, useRef } from "react";
import type { DirectionalLight } from "three";
import { useStore } from "zustand";
import { motion, rowOf } from "../../stores/motion";
import { onMoment } from "../../stores/scenery";
import { stage } from "../../stores/stage";
import { transport } from "../../stores/transport";

const SHADOW_REACH_M = 16;
/** The shadowed stretch moves in whole steps, so that shadow edges do not crawl. */
const SHADOW_STEP_M = 2;

/** Low sun from the left behind the camera, sky light, haze. The shadows follow the camera along the path. */
export function Lights() {
  const slow = useStore(stage, (state) => state.slow);
  const sun = useRef<DirectionalLight>(null);
  const follow = useCallback((data: Float32Array, at: number) => {
    const light = sun.current;
    if (!light) return;
    const x = Math.round((data[at] ?? 0) / SHADOW_STEP_M) * SHADOW_STEP_M;
    const z = Math.round(((data[at + 2] ?? 0) - 7) / SHADOW_STEP_M) * SHADOW_STEP_M;
    light.position.set(x - 9, 13, z + 7);
    light.target.position.set(x, 0, z);
    light.target.updateMatrixWorld();
  }, []);
  useFrame(() => {
    const bare = motion.getState().arrays.get("bare");
    if (bare) follow(bare.data, rowOf(transport.getState().frame) * bare.columns);
  });
  useEffect(
    () =>
      onMoment(({ row }) => {
        const there = row("bare");
        if (there) follow(there.data, there.at);
      }),
    [follow],
  );
  return (
    <>
      <fog attach="fog" args={["#c3c8bb", 25, 330]} />
      <hemisphereLight args={["#e6eef0", "#8a8268", 2.0]} />
      <directionalLight
        ref={sun}
        color="#fff0d2"
        intensity={2.2}
        castShadow={!slow}
        shadow-mapSize={[1024, 1024]}
        shadow-camera-left={-SHADOW_REACH_M}
        shadow-camera-right={SHADOW_REACH_M}
        shadow-camera-top={SHADOW_REACH_M}
        shadow-camera-bottom={-SHADOW_REACH_M}
        shadow-camera-far={50}
        shadow-bias={-0.002}
      />
    </>
  );
}
