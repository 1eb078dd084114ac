import { useFrame, useThree } from "@react-three/fiber";
import { useQuery } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { ClampToEdgeWrapping, type Group, MirroredRepeatWrapping, type Texture } from "three";
import { useStore } from "zustand";
import { client, take } from "../../api/client";
import type { PictureTiles, Plate } from "../../api/types";
import { motion, rowOf } from "../../stores/motion";
import { openShot } from "../../stores/openShot";
import { onMoment } from "../../stores/scenery";
import { stage } from "../../stores/stage";
import { transport } from "../../stores/transport";
import { discardPicture, pictureTexture } from "./pictureTexture";
import { plateGeometry } from "./plateGeometry";
import { PLATE_LOOKS, TiledPlate } from "./tiledPlate";
import { countWhole, hangTiled } from "./tiles";

const NONE: Plate[] = [];
const MISSING = "#A2364F";
/** Sides of a whole picture; where there are tiles of it, it is only what is drawn until they have come. */
const MAX_SIDE_PX = 4096;
const TILED_SIDE_PX = 2048;
/** Pixels of all whole pictures together: of very many each is drawn smaller. */
const MAX_WHOLES_PX = 32e6;

/** Pictures hung in the set. */
export function Plates() {
  const plates = useStore(openShot, (state) => state.state?.document.plates ?? NONE);
  const side = sideFor(plates);
  return plates.map((plate) => <HungPlate key={plate.id} plate={plate} most={side} />);
}

function sideFor(plates: Plate[]): number {
  const pixels = (side: number) =>
    plates.reduce((sum, { width_px, height_px }) => {
      const share = Math.min(1, side / Math.max(width_px, height_px));
      return sum + share * share * width_px * height_px;
    }, 0);
  let side = MAX_SIDE_PX;
  while (pixels(side) > MAX_WHOLES_PX && side > 1) side /= 2;
  return side;
}

/** One plate where it is at the frame shown. */
function HungPlate({ plate, most }: { plate: Plate; most: number }) {
  const { id, picture, edges } = plate;
  const group = useRef<Group>(null);
  const { tiles, known } = useTiles(plate);
  const tiled = tiles?.levels.length ? tiles : null;
  const texture = useTexture(picture, edges, tiled ? Math.min(most, TILED_SIDE_PX) : most);
  const missing = useStore(stage, (state) => state.missing.includes(picture));
  const settled = known && (texture !== null || missing);
  useEffect(() => {
    if (!settled) return;
    stage.setState(({ plates }) => ({ plates: [...plates, id] }));
    return () => stage.setState(({ plates }) => ({ plates: plates.filter((each) => each !== id) }));
  }, [settled, id]);
  const pose = useCallback((data: Float32Array, from: number) => {
    if (!group.current) return;
    group.current.position.set(data[from] ?? 0, data[from + 1] ?? 0, data[from + 2] ?? 0);
    group.current.quaternion.set(data[from + 3] ?? 0, data[from + 4] ?? 0, data[from + 5] ?? 0, data[from + 6] ?? 1);
    group.current.scale.setScalar(data[from + 7] ?? 1);
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
    <group ref={group}>
      {tiled && texture ? (
        <InTiles plate={plate} tiles={tiled} whole={texture} />
      ) : (
        <AsAWhole plate={plate} texture={texture} />
      )}
    </group>
  );
}

/** Inputs of its surface. */
const surfaceOf = ({ picture, shape, bend_deg, edges, edge_percent, width_px, height_px }: Plate) => [
  picture,
  shape,
  bend_deg,
  edges,
  edge_percent,
  width_px,
  height_px,
];

/** Without its picture it is a plain sheet. */
function AsAWhole({ plate, texture }: { plate: Plate; texture: Texture | null }) {
  const geometry = useMemo(() => plateGeometry(plate), surfaceOf(plate));
  useEffect(() => () => geometry.dispose(), [geometry]);
  return (
    <mesh name={plate.name} geometry={geometry} frustumCulled={false}>
      <meshBasicMaterial
        key={texture ? "picture" : "none"}
        map={texture}
        color={texture ? "white" : MISSING}
        wireframe={!texture}
        transparent={texture !== null}
        {...PLATE_LOOKS}
      />
    </mesh>
  );
}

function InTiles({ plate, tiles, whole }: { plate: Plate; tiles: PictureTiles; whole: Texture }) {
  const invalidate = useThree((state) => state.invalidate);
  const tiledPlate = useMemo(() => new TiledPlate(plate, tiles, whole), [...surfaceOf(plate), tiles, whole]);
  useEffect(() => {
    invalidate();
    return hangTiled(tiledPlate);
  }, [tiledPlate, invalidate]);
  return <primitive object={tiledPlate.group} />;
}

/** In which tiles a large picture is here, as soon as that is known; a small one has none. */
function useTiles({ picture, width_px, height_px }: Plate): { tiles: PictureTiles | undefined; known: boolean } {
  const params = { path: { digest: picture } };
  const hung = useStore(stage, (state) => state.hung);
  const large = Math.max(width_px, height_px) > TILED_SIDE_PX;
  const { data, isFetched } = useQuery({
    queryKey: ["tiles", picture, hung],
    queryFn: () => take<PictureTiles>(client.GET("/api/pictures/{digest}/tiles", { params })),
    enabled: large,
    staleTime: Number.POSITIVE_INFINITY,
  });
  return { tiles: data, known: !large || isFetched };
}

/** The picture once it is loaded; errors are shown on the board. */
function useTexture(picture: string, edges: Plate["edges"], most: number): Texture | null {
  const [texture, setTexture] = useState<Texture | null>(null);
  const invalidate = useThree((state) => state.invalidate);
  const hung = useStore(stage, (state) => state.hung);
  useEffect(() => {
    let end: (() => void) | null = null;
    let disposed = false;
    const tell = (missing: boolean) =>
      stage.setState(({ missing: before }) => ({
        missing: missing ? [...new Set([...before, picture])] : before.filter((each) => each !== picture),
      }));
    const onTexture = (loaded: Texture) => {
      if (disposed) return discardPicture(loaded);
      const uncount = countWhole(loaded);
      end = () => {
        uncount();
        discardPicture(loaded);
      };
      loaded.wrapS = loaded.wrapT = edges === "mirrored" ? MirroredRepeatWrapping : ClampToEdgeWrapping;
      tell(false);
      setTexture(loaded);
      invalidate();
    };
    pictureTexture(`/api/pictures/${picture}`, most).then(onTexture, () => !disposed && tell(true));
    return () => {
      disposed = true;
      setTexture(null);
      end?.();
    };
  }, [picture, edges, most, hung, invalidate]);
  return texture;
}
