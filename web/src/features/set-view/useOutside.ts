import { useEffect, useMemo, useState } from "react";
import { MathUtils, PerspectiveCamera } from "three";
import { useStore } from "zustand";
import { reachOf } from "../../shared/reachOf";
import { anglesOf } from "../../shared/turns";
import { motion } from "../../stores/motion";
import { openShot } from "../../stores/openShot";
import { tellFit, tellOutside } from "../../stores/stage";
import { OUTSIDE_LAYER } from "./layers";

export const NEAR_M = 0.05;
export const FAR_M = 2000;
const VFOV_DEG = 42;
/** A camera that moves less than this stands still; the outside view then looks at what it looks at. */
const STILL_M = 1;
const LOOK_AHEAD_M = 2.6;
const BEHIND_SHARE = 0.06;

type Point = [number, number, number];

/** Center of the whole path, and the distance from which all of it is visible. */
function pathInView(): { middle: Point; far: number } | null {
  const bare = motion.getState().arrays.get("bare");
  if (!bare?.data.length) return null;
  const { data } = bare;
  const reaches = [0, 1, 2].map((axis) => reachOf(bare, axis));
  const between = (axis: number) => ((reaches[axis]?.[0] ?? 0) + (reaches[axis]?.[1] ?? 0)) / 2;
  const length = Math.hypot(...reaches.map(([least, most]) => most - least));
  const pan = MathUtils.degToRad(data[3] ?? 0);
  const ahead = length < STILL_M ? LOOK_AHEAD_M : -length * BEHIND_SHARE;
  const middle: Point = [between(0) - Math.sin(pan) * ahead, between(1), between(2) - Math.cos(pan) * ahead];
  return { middle, far: Math.max(5.5, length * 0.92 + 1) };
}

/** The camera that looks from outside, and what it turns about. A fresh shot is looked at from the side, with its whole path in view. */
export function useOutside(): { camera: PerspectiveCamera; target: Point } {
  const shot = useStore(openShot, (state) => state.state?.id);
  const arrived = useStore(motion, (state) => state.rows > 0);
  const [target, setTarget] = useState<Point>([0, 0.8, -4]);
  const camera = useMemo(() => {
    const newCamera = new PerspectiveCamera(VFOV_DEG, 16 / 9, NEAR_M, FAR_M);
    newCamera.layers.enable(OUTSIDE_LAYER);
    return newCamera;
  }, []);
  useEffect(() => {
    tellOutside(() => {
      const { x, y, z } = camera.position;
      return { position: [x, y, z], angles: anglesOf(camera.quaternion.toArray()) };
    });
    return () => tellOutside(null);
  }, [camera]);
  useEffect(() => {
    const look = () => {
      const path = pathInView();
      if (!path) return;
      const [x, y, z] = path.middle;
      camera.position.set(x + path.far * 0.82, y + path.far * 0.46, z + path.far * 0.46);
      setTarget([x, y - 0.6, z]);
    };
    if (arrived && shot) look();
    tellFit(look);
    return () => tellFit(null);
  }, [arrived, shot, camera]);
  return { camera, target };
}
