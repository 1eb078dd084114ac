import { useFrame, useLoader, useThree } from "@react-three/fiber";
import { useEffect, useMemo } from "react";
import {
  AnimationMixer,
  type Material,
  Mesh,
  MeshBasicMaterial,
  MeshLambertMaterial,
  MeshStandardMaterial,
  type Object3D,
} from "three";
import { GLTFLoader } from "three/examples/jsm/loaders/GLTFLoader.js";
import { useStore } from "zustand";
import { useShallow } from "zustand/react/shallow";
import { session } from "../../stores/session";
import { transport } from "../../stores/transport";
import { view } from "../../stores/view";
import { applyLooks, piecesOf, tint } from "./looks";
import { stage } from "./stageStore";

/** Pieces of a set that neither throw nor catch shadows worth their cost. */
const FLAT = new Set(["sky", "hills", "kite"]);

const lambert = new Map<Material, MeshLambertMaterial>();

/** A plain material in place of a physical one: sets are stand-ins, and playback must stay light. */
function lighter(material: Material): Material {
  if (!(material instanceof MeshStandardMaterial)) return material;
  const known = lambert.get(material);
  if (known) return known;
  const { color, map, vertexColors, flatShading, side, transparent, opacity, alphaTest } = material;
  const made = new MeshLambertMaterial({
    color,
    map,
    vertexColors,
    flatShading,
    side,
    transparent,
    opacity,
    alphaTest,
  });
  lambert.set(material, made);
  return made;
}

function prepareShadows(root: Object3D): void {
  root.traverse((object) => {
    if (!(object instanceof Mesh)) return;
    object.material = lighter(object.material);
    const unlit = object.material instanceof MeshBasicMaterial;
    if (unlit) object.material.fog = false;
    // Small pieces first, ground and sky last: what is hidden behind them is then never shaded.
    object.geometry.computeBoundingSphere();
    object.renderOrder = Math.round(Math.log2((object.geometry.boundingSphere?.radius ?? 1) + 0.01));
    object.castShadow = !unlit && !FLAT.has(object.name) && object.name !== "water";
    object.receiveShadow = !unlit && !FLAT.has(object.name);
  });
}

/** The set with its own animation, at the frame shown. */
export function SetPieces({ setId }: { setId: string }) {
  const gltf = useLoader(GLTFLoader, `/api/sets/${setId}`);
  const { looks, tinted } = useStore(
    view,
    useShallow(({ looks, tinted }) => ({ looks, tinted })),
  );
  const subject = useStore(session, (state) => state.state?.document.subject?.object ?? null);
  const invalidate = useThree((state) => state.invalidate);
  const mixer = useMemo(() => {
    prepareShadows(gltf.scene);
    const made = new AnimationMixer(gltf.scene);
    for (const clip of gltf.animations) made.clipAction(clip).play();
    return made;
  }, [gltf]);
  useEffect(() => {
    stage.setState({ setProblem: null, ready: true, pieces: piecesOf(gltf.scene) });
    return () => {
      mixer.stopAllAction();
    };
  }, [mixer, gltf]);
  useEffect(() => {
    applyLooks(gltf.scene, looks);
    tint(gltf.scene, tinted ? subject : null);
    invalidate();
  }, [gltf, looks, tinted, subject, invalidate]);
  useFrame(() => {
    const { frame, first, fps } = transport.getState();
    mixer.setTime((frame - first) / fps);
  });
  return <primitive object={gltf.scene} />;
}
