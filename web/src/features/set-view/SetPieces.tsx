import { useFrame, useLoader, useThree } from "@react-three/fiber";
import { useCallback, useEffect, useMemo } from "react";
import {
  AnimationMixer,
  Box3,
  type Material,
  Mesh,
  MeshBasicMaterial,
  MeshLambertMaterial,
  MeshStandardMaterial,
  type Object3D,
  Sphere,
} from "three";

import { useStore } from "zustand";
import { useShallow } from "zustand/react/shallow";
import { openShot } from "../../stores/openShot";
import { onMoment } from "../../stores/scenery";
import { stage } from "../../stores/stage";
import { transport } from "../../stores/transport";
import { view } from "../../stores/view";
import { applyLooks, forgetLooks, piecesOf, tint } from "./looks";
import { SetLoader } from "./setLoader";

/** Pieces larger than this share of the whole set are its ground, water or sky: they throw no shadow worth its cost. */
const VAST = 0.25;

/** A plain material in place of a physical one: sets are stand-ins, and playback must stay light. */
function lighter(material: Material, lambert: Map<Material, MeshLambertMaterial>): Material {
  if (!(material instanceof MeshStandardMaterial)) return material;
  const known = lambert.get(material);
  if (known) return known;
  const { color, map, vertexColors, flatShading, side, transparent, opacity, alphaTest } = material;
  const replacement = new MeshLambertMaterial({
    color,
    map,
    vertexColors,
    flatShading,
    side,
    transparent,
    opacity,
    alphaTest,
  });
  lambert.set(material, replacement);
  return replacement;
}

/** Makes a set light enough to play; returns the materials it made. */
function prepare(root: Object3D): Material[] {
  const lambert = new Map<Material, MeshLambertMaterial>();
  const sceneRadius = new Box3().setFromObject(root).getBoundingSphere(new Sphere()).radius;
  root.traverse((object) => {
    if (!(object instanceof Mesh)) return;
    object.material = lighter(object.material, lambert);
    const unlit = object.material instanceof MeshBasicMaterial;
    if (unlit) object.material.fog = false;
    // Small pieces first, ground and sky last: what is hidden behind them is then never shaded.
    object.geometry.computeBoundingSphere();
    const radius = object.geometry.boundingSphere?.radius ?? 1;
    object.renderOrder = Math.round(Math.log2(radius + 0.01));
    object.castShadow = !unlit && radius < VAST * sceneRadius;
    object.receiveShadow = !unlit;
  });
  return [...lambert.values()];
}

/** The set with its own animation, at the frame shown. */
export function SetPieces({ setId }: { setId: string }) {
  const gltf = useLoader(SetLoader, `/api/sets/${setId}`);
  const { looks, tinted } = useStore(
    view,
    useShallow(({ looks, tinted }) => ({ looks, tinted })),
  );
  const subject = useStore(openShot, (state) => state.state?.document.subject?.object ?? null);
  const invalidate = useThree((state) => state.invalidate);
  const { mixer, actions, materials } = useMemo(() => {
    const materials = prepare(gltf.scene);
    const mixer = new AnimationMixer(gltf.scene);
    return { mixer, materials, actions: gltf.animations.map((clip) => mixer.clipAction(clip)) };
  }, [gltf]);
  useEffect(() => {
    stage.setState({ setProblem: null, ready: true, pieces: piecesOf(gltf.scene) });
    // Here, since what is stopped below has to play again when React runs an effect twice.
    for (const action of actions) action.play();
    return () => {
      mixer.stopAllAction();
      forgetLooks(gltf.scene);
      for (const material of materials) material.dispose();
      gltf.scene.traverse((object) => object instanceof Mesh && object.geometry.dispose());
      useLoader.clear(SetLoader, `/api/sets/${setId}`);
    };
  }, [mixer, actions, materials, gltf, setId]);
  useEffect(() => {
    applyLooks(gltf.scene, looks);
    tint(gltf.scene, tinted ? subject : null);
    invalidate();
  }, [gltf, looks, tinted, subject, invalidate]);
  const pose = useCallback(
    (frame: number) => {
      const { first, fps } = transport.getState();
      const at = Math.max((frame - first) / fps, 0);
      // A set's animation holds its last pose, as the core has it.
      for (const action of actions) action.time = Math.min(at, action.getClip().duration);
      mixer.update(0);
    },
    [actions, mixer],
  );
  useFrame(() => pose(transport.getState().frame));
  useEffect(() => onMoment(({ frame }) => pose(frame)), [pose]);
  return <primitive object={gltf.scene} />;
}
