import { OrbitControls } from "@react-three/drei";
import { useFrame, useThree } from "@react-three/fiber";
import { useMemo, useRef, useState } from "react";
import { PerspectiveCamera } from "three";
import { useStore } from "zustand";
import { CameraRings } from "./CameraRings";
import { drawFromOutside, drawThroughLens, wipe } from "./drawViews";
import { trialPose } from "./poses";
import { stage } from "./stageStore";
import { useBoxes } from "./useBoxes";
import { useCameraDrag } from "./useCameraDrag";
import { useMountPicking } from "./useMountPicking";
import { FAR_M, NEAR_M, useOutside } from "./useOutside";
import { usePicking } from "./usePicking";

const NEAREST_M = 0.6;
const FARTHEST_M = 120;

/** Where pictures are slow, and something is dragged or plays, the one from outside follows this often: the one through the lens goes first. */
const OUTSIDE_EVERY_MS = 150;

/** Draws the scene through the lens and from outside, each into its pane. */
export function TwoViews() {
  const { gl, scene, size } = useThree();
  const pane = useStore(stage, (state) => state.outside);
  const lens = useMemo(() => new PerspectiveCamera(40, 16 / 9, NEAR_M, FAR_M), []);
  const { camera, target } = useOutside();
  const [held, setHeld] = useState(false);
  useCameraDrag(pane, camera, setHeld);
  useMountPicking(pane, camera);
  usePicking(scene, lens, camera);
  const drawnAt = useRef(0);
  const boxes = useBoxes(gl.domElement);
  useFrame(() => {
    const { aspect } = stage.getState();
    const { finder, outside, trials: small } = boxes.current;
    // What was drawn between the small Viewfinders before would stay there.
    if (small.length) wipe(gl);
    gl.setScissorTest(true);
    const drawn = finder !== null && drawThroughLens(gl, scene, lens, finder, aspect, size.height);
    gl.shadowMap.autoUpdate = !drawn;
    for (const [key, box] of small) drawThroughLens(gl, scene, lens, box, aspect, size.height, trialPose(key));
    gl.shadowMap.autoUpdate = true;
    const due = !stage.getState().coarse || performance.now() - drawnAt.current > OUTSIDE_EVERY_MS;
    if (outside && due) {
      drawFromOutside(gl, scene, camera, outside, size.height, drawn);
      drawnAt.current = performance.now();
    }
    gl.setScissorTest(false);
  }, 1);
  if (!pane) return null;
  return (
    <>
      <OrbitControls
        enabled={!held}
        camera={camera}
        domElement={pane}
        target={target}
        maxDistance={FARTHEST_M}
        minDistance={NEAREST_M}
        makeDefault={false}
      />
      <CameraRings camera={camera} pane={pane} />
    </>
  );
}
