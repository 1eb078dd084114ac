/** The surface of a plate as triangles, a unit wide. */
import { BufferAttribute, BufferGeometry } from "three";
import type { Plate } from "../../api/types";

const PARTS = 24;

/** Where a place along the surface is: u to the right and v up, in widths of the plate. */
function placed(u: number, v: number, { shape, bend_deg }: Plate): [number, number, number] {
  if (shape === "flat") return [u, v, 0];
  const radius = 180 / Math.PI / bend_deg;
  const across = u / radius;
  if (shape === "cylinder") return [radius * Math.sin(across), v, radius * (1 - Math.cos(across))];
  const up = v / radius;
  return [
    radius * Math.cos(up) * Math.sin(across),
    radius * Math.sin(up),
    radius * (1 - Math.cos(up) * Math.cos(across)),
  ];
}

/** With the strips that its edges are gone on with; textures repeat there. */
export function plateGeometry(plate: Plate): BufferGeometry {
  const reach = plate.edges === "bare" ? 0.5 : 0.5 + plate.edge_percent / 100;
  const tall = plate.height_px / plate.width_px;
  const parts = plate.shape === "flat" ? 1 : PARTS;
  const places: number[] = [];
  const uvs: number[] = [];
  const corners: number[] = [];
  for (let row = 0; row <= parts; row++)
    for (let column = 0; column <= parts; column++) {
      const u = (2 * column) / parts - 1;
      const v = (2 * row) / parts - 1;
      places.push(...placed(u * reach, v * reach * tall, plate));
      uvs.push(0.5 + u * reach, 0.5 + v * reach);
      if (row === parts || column === parts) continue;
      const at = row * (parts + 1) + column;
      const over = at + parts + 1;
      corners.push(at, at + 1, over + 1, at, over + 1, over);
    }
  const made = new BufferGeometry();
  made.setAttribute("position", new BufferAttribute(new Float32Array(places), 3));
  made.setAttribute("uv", new BufferAttribute(new Float32Array(uvs), 2));
  made.setIndex(corners);
  made.computeVertexNormals();
  return made;
}
