import { OrbitControls } from "@react-three/drei";
import { useFrame, useThree } from "@react-three/fiber";
import { useEffect, useMemo, useState } from "react";
import { Euler, MathUtils, PerspectiveCamera, type WebGLRenderer } from "three";
import { useStore } from "zustand";
import { fitted } from "../../shared/fit";
import { motion } from "../../stores/motion";
import { session } from "../../stores/session";
import { OUTSIDE_LAYER } from "./layers";
import { placeAtLens, shownPose, VFOV } from "./poses";
import { stage, tellOutside } from "./stageStore";

const NEAR_M = 0.05;
const FAR_M = 2000;

type Box = { left: number; top: number; width: number; height: number };

/** Where a pane lies on the canvas. */
function boxOf(pane: HTMLElement, canvas: HTMLElement): Box {
  const a = pane.getBoundingClientRect();
  const b = canvas.getBoundingClientRect();
  return { left: a.left - b.left, top: a.top - b.top, width: a.width, height: a.height };
}

function aim(gl: WebGLRenderer, box: Box, height: number): void {
  const bottom = height - box.top - box.height;
  gl.setViewport(box.left, bottom, box.width, box.height);
  gl.setScissor(box.left, bottom, box.width, box.height);
}

/** Draws the scene through the lens and from outside, each into its pane. */
export function TwoViews() {
  const { gl, scene, size } = useThree();
  const pane = useStore(stage, (state) => state.outside);
  const shot = useStore(session, (state) => state.state?.id);
  const arrived = useStore(motion, (state) => state.frames > 0);
  const lens = useMemo(() => new PerspectiveCamera(40, 16 / 9, NEAR_M, FAR_M), []);
  const outside = useMemo(() => {
    const camera = new PerspectiveCamera(42, 16 / 9, NEAR_M, FAR_M);
    camera.layers.enable(OUTSIDE_LAYER);
    return camera;
  }, []);
  const [target, setTarget] = useState<[number, number, number]>([0, 0.8, -4]);

  useEffect(() => {
    tellOutside(() => {
      const turn = new Euler().setFromQuaternion(outside.quaternion, "YXZ");
      const { x, y, z } = outside.position;
      return {
        position: [x, y, z],
        angles: [MathUtils.radToDeg(turn.y), MathUtils.radToDeg(turn.x), MathUtils.radToDeg(turn.z)],
      };
    });
    return () => tellOutside(null);
  }, [outside]);

  // A fresh shot is looked at from the side, with its whole path in view.
  useEffect(() => {
    const bare = motion.getState().arrays.get("bare");
    if (!bare || !arrived || !shot) return;
    const last = (motion.getState().frames - 1) * bare.columns;
    const middle = [0, 1, 2].map((axis) => ((bare.data[axis] ?? 0) + (bare.data[last + axis] ?? 0)) / 2);
    const [x = 0, y = 1.5, z = 0] = middle;
    const length = Math.hypot(
      (bare.data[last] ?? 0) - (bare.data[0] ?? 0),
      (bare.data[last + 2] ?? 0) - (bare.data[2] ?? 0),
    );
    const far = Math.max(4.5, length * 0.92 + 1);
    outside.position.set(x + far * 0.82, y + far * 0.46, z + far * 0.46);
    setTarget([x, y - 0.6, z + length * 0.06]);
  }, [arrived, shot, outside]);

  useFrame(() => {
    const { finder, outside: side, aspect } = stage.getState();
    const pose = shownPose();
    gl.setScissorTest(true);
    if (finder && pose) {
      const box = boxOf(finder, gl.domElement);
      const inner = fitted(box.width, box.height, aspect);
      placeAtLens(lens, pose.data, pose.at);
      lens.fov = pose.data[pose.at + VFOV] ?? 40;
      lens.aspect = aspect;
      lens.updateProjectionMatrix();
      aim(
        gl,
        { left: box.left + inner.x, top: box.top + inner.y, width: inner.width, height: inner.height },
        size.height,
      );
      gl.render(scene, lens);
    }
    if (side) {
      const box = boxOf(side, gl.domElement);
      outside.aspect = Math.max(box.width, 1) / Math.max(box.height, 1);
      outside.updateProjectionMatrix();
      aim(gl, box, size.height);
      gl.shadowMap.autoUpdate = !(finder && pose);
      gl.render(scene, outside);
      gl.shadowMap.autoUpdate = true;
    }
    gl.setScissorTest(false);
  }, 1);

  return pane ? (
    <OrbitControls
      camera={outside}
      domElement={pane}
      target={target}
      maxDistance={120}
      minDistance={0.6}
      makeDefault={false}
    />
  ) : null;
}
