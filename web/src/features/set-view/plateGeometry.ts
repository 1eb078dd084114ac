/** The surface of a plate as triangles, a unit wide. */
import { BufferAttribute, BufferGeometry } from "three";
import type { Plate } from "../../api/types";

/** Number of segments across the width and height of a curved one. */
const PARTS = 24;

/** A part of a picture: shares of its width from the left and of its height from below. */
export type Share = { left: number; right: number; low: number; high: number };

/** Position of a point on the surface: u to the right and v up, in widths of the plate. */
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

/** Position of a point of the picture: shares of its width and height. */
export function hangsAt(x: number, y: number, plate: Plate): [number, number, number] {
  return placed(x - 0.5, (y - 0.5) * (plate.height_px / plate.width_px), plate);
}

/** Extension of a plate beyond its picture per side, in shares of its size. */
function beyond({ edges, edge_percent }: Plate): number {
  return edges === "bare" ? 0 : edge_percent / 100;
}

/** With the strips of its edge extension; textures repeat there. */
export function plateGeometry(plate: Plate): BufferGeometry {
  const more = beyond(plate);
  return partGeometry(plate, { left: -more, right: 1 + more, low: -more, high: 1 + more });
}

/** The strips alone, round the picture: none where its edges are bare. */
export function stripGeometries(plate: Plate): BufferGeometry[] {
  const more = beyond(plate);
  if (more === 0) return [];
  const [least, most] = [-more, 1 + more];
  return [
    { left: least, right: 0, low: least, high: most },
    { left: 1, right: most, low: least, high: most },
    { left: 0, right: 1, low: least, high: 0 },
    { left: 0, right: 1, low: 1, high: most },
  ].map((share) => partGeometry(plate, share));
}

/** A part of the surface. */
export function partGeometry(plate: Plate, { left, right, low, high }: Share): BufferGeometry {
  const flat = plate.shape === "flat";
  const columns = flat ? 1 : Math.ceil(PARTS * (right - left));
  const rows = flat ? 1 : Math.ceil(PARTS * (high - low));
  const places: number[] = [];
  const uvs: number[] = [];
  const corners: number[] = [];
  for (let row = 0; row <= rows; row++)
    for (let column = 0; column <= columns; column++) {
      const x = left + ((right - left) * column) / columns;
      const y = low + ((high - low) * row) / rows;
      places.push(...hangsAt(x, y, plate));
      uvs.push(x, y);
      if (row === rows || column === columns) continue;
      const at = row * (columns + 1) + column;
      const over = at + columns + 1;
      corners.push(at, at + 1, over + 1, at, over + 1, over);
    }
  const geometry = new BufferGeometry();
  geometry.setAttribute("position", new BufferAttribute(new Float32Array(places), 3));
  geometry.setAttribute("uv", new BufferAttribute(new Float32Array(uvs), 2));
  geometry.setIndex(corners);
  geometry.computeVertexNormals();
  return geometry;
}
