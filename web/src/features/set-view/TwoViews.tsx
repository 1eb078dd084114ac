import { OrbitControls } from "@react-three/drei";
import { useFrame, useThree } from "@react-three/fiber";
import { useEffect, useMemo, useState } from "react";
import { PerspectiveCamera } from "three";
import { useStore } from "zustand";
import { elementOf, FINDER, SET_VIEW, stage } from "../../stores/stage";
import { CameraRings } from "./CameraRings";
import { drawFromOutside, LensPictures, wipe } from "./drawViews";
import { shownPose } from "./poses";
import { useBoxes } from "./useBoxes";
import { useCameraDrag } from "./useCameraDrag";
import { useMountPicking } from "./useMountPicking";
import { FAR_M, NEAR_M, useOutside } from "./useOutside";
import { useOutsideTurn } from "./useOutsideTurn";
import { usePicking } from "./usePicking";
import { useStill } from "./useStill";

/** These fill their places; round others the wall is seen. */
const USUAL_PANES: string[] = [FINDER, SET_VIEW];
const NEAREST_M = 0.6;
const FARTHEST_M = 120;

/** Draws the scene through the lens and from outside, each into its pane. */
export function TwoViews() {
  const { gl, scene, size, invalidate } = useThree();
  const pane = useStore(stage, elementOf(SET_VIEW));
  const lens = useMemo(() => new PerspectiveCamera(40, 16 / 9, NEAR_M, FAR_M), []);
  const pictures = useMemo(() => new LensPictures(gl, scene, lens), [gl, scene, lens]);
  useEffect(() => () => pictures.dispose(), [pictures]);
  const { camera, target } = useOutside();
  const [held, setHeld] = useState(false);
  useCameraDrag(pane, camera, setHeld);
  useMountPicking(pane, camera);
  usePicking(scene, lens, camera);
  const turn = useOutsideTurn(gl.domElement, held, invalidate);
  const boxes = useBoxes(gl.domElement);
  const drawStill = useStill();
  useFrame(() => {
    const { aspect } = stage.getState();
    const hung = boxes.current;
    // Earlier drawings between several Viewfinders must be cleared.
    if (hung.some(({ pane: { id } }) => !USUAL_PANES.includes(id))) wipe(gl);
    gl.setScissorTest(true);
    const due = turn.due();
    // Shadows are the same in all of them: the first picture makes them.
    let shadows = false;
    for (const { pane: each, box } of hung) {
      gl.shadowMap.autoUpdate = !shadows;
      const pose = each.camera === "lens" ? shownPose(each.motion()) : null;
      if (each.id === FINDER && drawStill(box, aspect, size.height)) continue;
      const redraw = each.id === FINDER ? invalidate : undefined;
      if (pose) pictures.draw({ box, aspect, canvasHeight: size.height, pose, part: each.part?.(), redraw });
      if (each.camera === "outside" && due) {
        drawFromOutside(gl, scene, camera, box, size.height);
        turn.drawn();
        shadows = true;
      }
      shadows ||= pose !== null;
    }
    gl.shadowMap.autoUpdate = true;
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
