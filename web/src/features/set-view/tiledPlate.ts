/** A large picture on its plate, in cells: each is drawn with a tile of the picture, or with its part of the whole. */
import {
  DoubleSide,
  Group,
  Matrix4,
  Mesh,
  MeshBasicMaterial,
  type PerspectiveCamera,
  type Texture,
  Vector4,
} from "three";
import type { PictureTiles, Plate } from "../../api/types";
import { hangsAt, partGeometry, type Share, stripGeometries } from "./plateGeometry";

/** A tile for a cell, and its area in the picture (in squared halves of it). */
export type Wish = { cell: Cell; url: string; area: number };

export type Cell = {
  mesh: Mesh<ReturnType<typeof partGeometry>, MeshBasicMaterial>;
  column: number;
  row: number;
  share: Share;
  /** Its corners in the whole picture. */
  at: Float32Array;
  /** Its tile; the whole picture where null. */
  shown: string | null;
};

/** Tiles are loaded this far beyond the picture's edges, in halves of it: a shake or distortion may soon show them. */
const AROUND = 1.2;
/** Places along each side of a cell that are looked at. */
const LOOKED_AT = [0, 0.5, 1];
/** Points nearer to the lens than this, or behind it, have no position in the picture (m). */
const NEAR_M = 0.02;
/** Material of every plate. */
export const PLATE_LOOKS = { alphaTest: 0.02, side: DoubleSide, fog: false, toneMapped: false };

export class TiledPlate {
  readonly group = new Group();
  readonly cells: Cell[] = [];
  private readonly strips: Mesh[] = [];
  private readonly toLens = new Matrix4();
  private readonly place = new Vector4();

  constructor(
    private readonly plate: Plate,
    private readonly tiles: PictureTiles,
    private readonly whole: Texture,
  ) {
    const { width_px, height_px } = plate;
    for (let row = 0; row * tiles.step_px < height_px; row++)
      for (let column = 0; column * tiles.step_px < width_px; column++) this.add(column, row);
    for (const geometry of stripGeometries(plate)) this.strips.push(new Mesh(geometry, materialOf(whole)));
    for (const mesh of [...this.strips, ...this.cells.map((cell) => cell.mesh)]) {
      mesh.name = plate.name;
      mesh.frustumCulled = false;
      this.group.add(mesh);
    }
  }

  /** Tiles that make it sharp in a picture of a given size. */
  wishes(lens: PerspectiveCamera, width: number, height: number): Wish[] {
    this.group.updateWorldMatrix(true, false);
    this.toLens.multiplyMatrices(lens.projectionMatrix, lens.matrixWorldInverse).multiply(this.group.matrixWorld);
    return this.cells.flatMap((cell) => this.wish(cell, width, height));
  }

  /** Draws a cell with a tile, or with its part of the whole picture. */
  show(cell: Cell, url: string | null, tile: Texture | null): void {
    if (cell.shown === url) return;
    cell.shown = url;
    cell.mesh.material.map = tile ?? this.whole;
    const { left, right, low, high } = tile && url ? this.partOf(cell, Number(url.split("/").at(-3))) : FULL_SHARE;
    const uv = cell.mesh.geometry.getAttribute("uv");
    for (let n = 0; n < uv.count; n++) {
      const [x, y] = [cell.at[2 * n] ?? 0, cell.at[2 * n + 1] ?? 0];
      uv.setXY(n, (x - left) / (right - left), (y - low) / (high - low));
    }
    uv.needsUpdate = true;
  }

  dispose(): void {
    for (const { geometry, material } of [...this.cells.map(({ mesh }) => mesh), ...this.strips]) {
      geometry.dispose();
      (material as MeshBasicMaterial).dispose();
    }
  }

  private add(column: number, row: number): void {
    const { step_px } = this.tiles;
    const share = shareOf(this.plate, column * step_px, row * step_px, (column + 1) * step_px, (row + 1) * step_px);
    const mesh = new Mesh(partGeometry(this.plate, share), materialOf(this.whole));
    const at = Float32Array.from(mesh.geometry.getAttribute("uv").array);
    this.cells.push({ mesh, column, row, share, at, shown: null });
  }

  /** The part of the picture that the tile over a cell has, with its margins. */
  private partOf({ column, row }: Cell, level: number): Share {
    const { step_px, margin_px, levels } = this.tiles;
    const size = levels[level] ?? this.plate;
    const [left, top] = [column >> level, row >> level].map((n) => n * step_px) as [number, number];
    return shareOf(size, left - margin_px, top - margin_px, left + step_px + margin_px, top + step_px + margin_px);
  }

  private wish(cell: Cell, width: number, height: number): Wish[] {
    const { left, right, low, high } = cell.share;
    let [minX, maxX, minY, maxY] = [Infinity, -Infinity, Infinity, -Infinity];
    let behind = false;
    for (const across of LOOKED_AT)
      for (const up of LOOKED_AT) {
        const at = hangsAt(left + (right - left) * across, low + (high - low) * up, this.plate);
        const { x, y, w } = this.place.set(...at, 1).applyMatrix4(this.toLens);
        if (w <= NEAR_M) {
          behind = true;
          continue;
        }
        [minX, maxX] = [Math.min(minX, x / w), Math.max(maxX, x / w)];
        [minY, maxY] = [Math.min(minY, y / w), Math.max(maxY, y / w)];
      }
    const isVisible = minX < AROUND && maxX > -AROUND && minY < AROUND && maxY > -AROUND;
    if (!isVisible && !(behind && minX < Infinity)) return [];
    const pixels = Math.max(
      ((maxX - minX) * width) / 2 / ((right - left) * this.plate.width_px),
      ((maxY - minY) * height) / 2 / ((high - low) * this.plate.height_px),
    );
    const level = Math.max(0, Math.round(-Math.log2(pixels)));
    if (level >= this.tiles.levels.length) return [];
    const area = overlap(minX, maxX) * overlap(minY, maxY);
    const place = [level, cell.column >> level, cell.row >> level].join("/");
    return [{ cell, url: `/api/pictures/${this.plate.picture}/tiles/${place}`, area }];
  }
}

const FULL_SHARE: Share = { left: 0, right: 1, low: 0, high: 1 };

const overlap = (from: number, to: number): number => Math.max(0, Math.min(to, 1) - Math.max(from, -1));

/** A rectangle of pixels, from above, as far as the picture goes. */
function shareOf(size: { width_px: number; height_px: number }, x0: number, y0: number, x1: number, y1: number): Share {
  const { width_px, height_px } = size;
  return {
    left: Math.max(x0, 0) / width_px,
    right: Math.min(x1, width_px) / width_px,
    low: 1 - Math.min(y1, height_px) / height_px,
    high: 1 - Math.max(y0, 0) / height_px,
  };
}

function materialOf(map: Texture): MeshBasicMaterial {
  return new MeshBasicMaterial({ map, transparent: true, ...PLATE_LOOKS });
}
