import { useEffect, useMemo } from "react";
import { CanvasTexture, RepeatWrapping, SRGBColorSpace } from "three";
import { drawsInSoftware } from "../../shared/renderer";

const SIZE_M = 400;
const TILE_PX = 128;

/** A square metre of ground with its edges ruled. */
function ruledMetre(): CanvasTexture {
  const canvas = document.createElement("canvas");
  canvas.width = TILE_PX;
  canvas.height = TILE_PX;
  const context = canvas.getContext("2d");
  if (context) {
    context.fillStyle = "#8b9187";
    context.fillRect(0, 0, TILE_PX, TILE_PX);
    context.strokeStyle = "#5f6865";
    context.lineWidth = 4;
    context.strokeRect(0, 0, TILE_PX, TILE_PX);
  }
  const texture = new CanvasTexture(canvas);
  texture.wrapS = RepeatWrapping;
  texture.wrapT = RepeatWrapping;
  texture.repeat.set(SIZE_M, SIZE_M);
  texture.colorSpace = SRGBColorSpace;
  texture.anisotropy = drawsInSoftware() ? 1 : 4;
  return texture;
}

/** Ground for a shot without a set: ruled in metres, with posts, so that motion can be seen. */
export function EmptySet() {
  const ground = useMemo(ruledMetre, []);
  useEffect(() => () => ground.dispose(), [ground]);
  return (
    <>
      <color attach="background" args={["#8FA0A6"]} />
      <mesh rotation-x={-Math.PI / 2} position-y={-0.02} receiveShadow>
        <planeGeometry args={[SIZE_M, SIZE_M]} />
        <meshLambertMaterial map={ground} />
      </mesh>
      {[-9, -6, -3, 0, 3, 6].flatMap((x) =>
        [-4, -8, -14, -22].map((z) => (
          <mesh key={`${x}/${z}`} position={[x + (z % 3), 0.6, z]} castShadow>
            <boxGeometry args={[0.24, 1.2, 0.24]} />
            <meshLambertMaterial color="#b08d57" />
          </mesh>
        )),
      )}
    </>
  );
}
