import { useFrame, useThree } from "@react-three/fiber";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import {
  ClampToEdgeWrapping,
  DoubleSide,
  type Mesh,
  MirroredRepeatWrapping,
  SRGBColorSpace,
  type Texture,
  TextureLoader,
} from "three";
import { useStore } from "zustand";
import type { Plate } from "../../api/types";
import { motion, rowOf } from "../../stores/motion";
import { openShot } from "../../stores/openShot";
import { onMoment } from "../../stores/scenery";
import { stage } from "../../stores/stage";
import { transport } from "../../stores/transport";
import { plateGeometry } from "./plateGeometry";

const NONE: Plate[] = [];
const MISSING = "#A2364F";

/** Pictures hung in the set. */
export function Plates() {
  const plates = useStore(openShot, (state) => state.state?.document.plates ?? NONE);
  return plates.map((plate) => <PlateMesh key={plate.id} plate={plate} />);
}

/** One plate where it is at the frame shown; without its picture it is a plain sheet. */
function PlateMesh({ plate }: { plate: Plate }) {
  const { id, picture, shape, bend_deg, edges, edge_percent, width_px, height_px } = plate;
  const mesh = useRef<Mesh>(null);
  const texture = useTexture(picture, edges);
  const geometry = useMemo(() => plateGeometry(plate), [shape, bend_deg, edges, edge_percent, width_px, height_px]);
  useEffect(() => () => geometry.dispose(), [geometry]);
  const pose = useCallback((data: Float32Array, from: number) => {
    if (!mesh.current) return;
    mesh.current.position.set(data[from] ?? 0, data[from + 1] ?? 0, data[from + 2] ?? 0);
    mesh.current.quaternion.set(data[from + 3] ?? 0, data[from + 4] ?? 0, data[from + 5] ?? 0, data[from + 6] ?? 1);
    mesh.current.scale.setScalar(data[from + 7] ?? 1);
  }, []);
  useFrame(() => {
    const state = motion.getState();
    const array = state.arrays.get(`plate:${id}`);
    if (array) pose(array.data, rowOf(transport.getState().frame, state) * array.columns);
  });
  useEffect(
    () =>
      onMoment(({ row }) => {
        const there = row(`plate:${id}`);
        if (there) pose(there.data, there.at);
      }),
    [id, pose],
  );
  return (
    <mesh ref={mesh} name={plate.name} geometry={geometry} frustumCulled={false}>
      <meshBasicMaterial
        key={texture ? "picture" : "none"}
        map={texture}
        color={texture ? "white" : MISSING}
        wireframe={!texture}
        transparent={texture !== null}
        alphaTest={0.02}
        side={DoubleSide}
        fog={false}
        toneMapped={false}
      />
    </mesh>
  );
}

/** The picture once it has come; what does not come is told on the board. */
function useTexture(picture: string, edges: Plate["edges"]): Texture | null {
  const [texture, setTexture] = useState<Texture | null>(null);
  const invalidate = useThree((state) => state.invalidate);
  const hung = useStore(stage, (state) => state.hung);
  useEffect(() => {
    let made: Texture | null = null;
    let gone = false;
    const tell = (missing: boolean) =>
      stage.setState(({ missing: before }) => ({
        missing: missing ? [...new Set([...before, picture])] : before.filter((each) => each !== picture),
      }));
    const come = (loaded: Texture) => {
      if (gone) {
        loaded.dispose();
        return;
      }
      made = loaded;
      loaded.colorSpace = SRGBColorSpace;
      loaded.wrapS = loaded.wrapT = edges === "mirrored" ? MirroredRepeatWrapping : ClampToEdgeWrapping;
      tell(false);
      setTexture(loaded);
      invalidate();
    };
    new TextureLoader().load(`/api/pictures/${picture}`, come, undefined, () => !gone && tell(true));
    return () => {
      gone = true;
      made?.dispose();
      setTexture(null);
    };
  }, [picture, edges, hung, invalidate]);
  return texture;
}
