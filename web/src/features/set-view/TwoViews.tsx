import { OrbitControls } from "@react-three/drei";
import { useFrame, useThree } from "@react-three/fiber";
import { useEffect, useMemo, useState } from "react";
import { Euler, MathUtils, PerspectiveCamera, type WebGLRenderer } from "three";
import { useStore } from "zustand";
import { AROUND, fitted } from "../../shared/fit";
import { motion } from "../../stores/motion";
import { session } from "../../stores/session";
import { view } from "../../stores/view";
import { CameraRings } from "./CameraRings";
import { OUTSIDE_LAYER } from "./layers";
import { placeAtLens, shownPose, VFOV } from "./poses";
import { stage, tellOutside } from "./stageStore";
import { useCameraDrag } from "./useCameraDrag";
import { usePicking } from "./usePicking";

const NEAR_M = 0.05;
const FAR_M = 2000;
/** A camera that moves less than this stands still; the outside view then looks at what it looks at. */
const STILL_M = 1;
const LOOK_AHEAD_M = 2.6;

/** Vertical field of view, in degrees, that shows this many times the height. */
function wider(vfov: number, times: number): number {
  return times === 1 ? vfov : MathUtils.radToDeg(2 * Math.atan(Math.tan(MathUtils.degToRad(vfov) / 2) * times));
}

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
  const arrived = useStore(motion, (state) => state.rows > 0);
  const lens = useMemo(() => new PerspectiveCamera(40, 16 / 9, NEAR_M, FAR_M), []);
  const outside = useMemo(() => {
    const camera = new PerspectiveCamera(42, 16 / 9, NEAR_M, FAR_M);
    camera.layers.enable(OUTSIDE_LAYER);
    return camera;
  }, []);
  const [held, setHeld] = useState(false);
  useCameraDrag(pane, outside, setHeld);
  usePicking(scene, lens, outside);
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
    const { data, columns } = bare;
    const last = (motion.getState().rows - 1) * columns;
    const between = (axis: number) => ((data[axis] ?? 0) + (data[last + axis] ?? 0)) / 2;
    const length = Math.hypot((data[last] ?? 0) - (data[0] ?? 0), (data[last + 2] ?? 0) - (data[2] ?? 0));
    const pan = MathUtils.degToRad(data[3] ?? 0);
    const ahead = length < STILL_M ? LOOK_AHEAD_M : -length * 0.06;
    const [x, y, z] = [between(0) - Math.sin(pan) * ahead, between(1), between(2) - Math.cos(pan) * ahead];
    const far = Math.max(5.5, length * 0.92 + 1);
    outside.position.set(x + far * 0.82, y + far * 0.46, z + far * 0.46);
    setTarget([x, y - 0.6, z]);
  }, [arrived, shot, outside]);

  useFrame(() => {
    const { finder, outside: side, aspect } = stage.getState();
    const pose = shownPose();
    gl.setScissorTest(true);
    if (finder && pose) {
      const box = boxOf(finder, gl.domElement);
      const inner = fitted(box.width, box.height, aspect);
      placeAtLens(lens, pose.data, pose.at);
      const around = view.getState().around ? AROUND : 1;
      lens.fov = wider(pose.data[pose.at + VFOV] ?? 40, around);
      lens.aspect = aspect;
      const { zoom, x, y } = view.getState().loupe;
      if (zoom > 1) lens.setViewOffset(1, 1, x - 0.5 / zoom, y - 0.5 / zoom, 1 / zoom, 1 / zoom);
      else lens.clearViewOffset();
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
    <>
      <OrbitControls
        enabled={!held}
        camera={outside}
        domElement={pane}
        target={target}
        maxDistance={120}
        minDistance={0.6}
        makeDefault={false}
      />
      <CameraRings camera={outside} pane={pane} />
    </>
  ) : null;
}
