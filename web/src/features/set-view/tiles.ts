/** Tiles of large pictures: what is seen through the lens is fetched, within a budget; what was not asked for lately goes. */
import type { PerspectiveCamera, Texture } from "three";
import { stage } from "../../stores/stage";
import { discardPicture, pictureTexture, pixelsOf } from "./pictureTexture";
import type { TiledPlate, Wish } from "./tiledPlate";

/** Pixels of all pictures together. */
const MAX_PX = 64e6;
/** Until it is here, a tile is taken to be so large. */
const TILE_PX = 2048 ** 2;

type Tile = { texture: Texture | null; coming: Promise<void>; failed: boolean; askedAt: number };

const hung = new Set<TiledPlate>();
const tiles = new Map<string, Tile>();
/** Pixels of the pictures that are here as a whole. */
const wholes = new Map<Texture, number>();
let round = 0;

/** Counts a picture that is here as a whole; answers with what ends that. */
export function countWhole(texture: Texture): () => void {
  wholes.set(texture, pixelsOf(texture));
  return () => wholes.delete(texture);
}

function room(): number {
  return MAX_PX - [...wholes.values()].reduce((sum, each) => sum + each, 0);
}

/** Has a plate drawn in tiles; answers with what ends that. */
export function hangTiled(plate: TiledPlate): () => void {
  hung.add(plate);
  return () => {
    hung.delete(plate);
    plate.dispose();
    tidy(new Set());
  };
}

/** Whether any plate is drawn in tiles. */
export function anyTiled(): boolean {
  return hung.size > 0;
}

/** Draws with the loaded tiles and loads the others; resolves when those have arrived, or immediately with nothing to load. */
export function sharpen(
  lens: PerspectiveCamera,
  width: number,
  height: number,
  redraw: () => void,
): Promise<void> | null {
  if (!hung.size) return null;
  round++;
  lens.updateMatrixWorld();
  const wishes = [...hung].flatMap((plate) => plate.wishes(lens, width, height).map((wish) => ({ ...wish, plate })));
  const affordableTiles = affordable(wishes);
  const coming = [...affordableTiles].filter((url) => !tiles.get(url)?.texture).map((url) => fetched(url, redraw));
  for (const { plate, cell, url } of wishes) {
    const texture = affordableTiles.has(url) ? tiles.get(url)?.texture : null;
    if (texture) plate.show(cell, url, texture);
  }
  tidy(affordableTiles);
  const shown = new Set([...hung].flatMap(({ cells }) => cells.flatMap((cell) => cell.shown ?? [])));
  if (stage.getState().tiles !== shown.size) stage.setState({ tiles: shown.size });
  const open = coming.filter((each) => each !== null);
  return open.length ? Promise.all(open).then(() => undefined) : null;
}

/** Addresses of the tiles that there is room for: what takes most of the picture first. */
function affordable(wishes: Wish[]): Set<string> {
  const areas = new Map<string, number>();
  for (const { url, area } of wishes) areas.set(url, (areas.get(url) ?? 0) + area);
  const urls = [...areas.keys()].sort((a, b) => (areas.get(b) ?? 0) - (areas.get(a) ?? 0));
  let roomLeft = room();
  const keys = new Set<string>();
  for (const url of urls) {
    roomLeft -= sizeOf(url);
    if (roomLeft >= 0) keys.add(url);
  }
  return keys;
}

function sizeOf(url: string): number {
  const texture = tiles.get(url)?.texture;
  return texture ? pixelsOf(texture) : TILE_PX;
}

/** Nothing where it came and was none. */
function fetched(url: string, redraw: () => void): Promise<void> | null {
  const known = tiles.get(url);
  if (known) return known.failed ? null : known.coming;
  const tile: Tile = { texture: null, coming: Promise.resolve(), failed: false, askedAt: round };
  tile.coming = pictureTexture(url).then(
    (texture) => {
      if (tiles.get(url) !== tile) return discardPicture(texture);
      tile.texture = texture;
      redraw();
    },
    () => {
      // The part of the whole picture is drawn instead, and it is not asked for again.
      tile.failed = true;
    },
  );
  tiles.set(url, tile);
  return tile.coming;
}

/** Lets go of what was asked for longest ago, as long as there is too much. */
function tidy(kept: Set<string>): void {
  for (const url of kept) {
    const tile = tiles.get(url);
    if (tile) tile.askedAt = round;
  }
  const here = [...tiles].filter(([, tile]) => tile.texture);
  let all = here.reduce((sum, [url]) => sum + sizeOf(url), 0);
  const oldest = here.filter(([url]) => !kept.has(url)).sort(([, a], [, b]) => a.askedAt - b.askedAt);
  const roomPx = hung.size ? room() : 0;
  for (const [url, tile] of oldest) {
    if (all <= roomPx) return;
    all -= sizeOf(url);
    for (const plate of hung) for (const cell of plate.cells) if (cell.shown === url) plate.show(cell, null, null);
    if (tile.texture) discardPicture(tile.texture);
    tiles.delete(url);
  }
}
