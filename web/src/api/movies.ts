/** Movies over the wire: what frames need, and frames. */
import { client, take } from "./client";
import { readPacket } from "./packet";
import type { MovieState } from "./types";

type Rows = { data: Float32Array; columns: number };
/** Drawings of some frames from one on, by name; the shot's frames in `at`. */
export type Moments = { first: number; count: number; at: Float64Array; arrays: Map<string, Rows> };

type Head = { rows: number; arrays: { name: string; columns: number; rows: number; offset: number }[] };

export async function fetchMoments(movie: string, first: number, count: number): Promise<Moments> {
  const params = { path: { movie } };
  const call = client.POST("/api/movies/{movie}/moments", { params, body: { first, count }, parseAs: "arrayBuffer" });
  return momentsOf(await take<ArrayBuffer>(call), first);
}

/** Drawings of one frame of a shot while the shutter is open. */
export async function fetchStill(shot: string, frame: number, subframes: number): Promise<Moments> {
  const params = { path: { shot } };
  const body = { frame, subframes, shutter_deg: 180 };
  const call = client.POST("/api/shots/{shot}/still", { params, body, parseAs: "arrayBuffer" });
  return momentsOf(await take<ArrayBuffer>(call), 0);
}

function momentsOf(packet: ArrayBuffer, first: number): Moments {
  const { head, start } = readPacket<Head>(packet, "moments");
  const arrays = new Map<string, Rows>();
  let at = new Float64Array();
  for (const { name, columns, rows, offset } of head.arrays) {
    if (name === "at") at = new Float64Array(packet, start + offset, rows);
    else arrays.set(name, { columns, data: new Float32Array(packet, start + offset, rows * columns) });
  }
  return { first, at, arrays, count: head.rows };
}

/** Hands a frame over; answered when the encoder has taken it. */
export function sendFrame(
  movie: string,
  number: number,
  frame: Uint8Array,
): Promise<Pick<MovieState, "next" | "status">> {
  const params = { path: { movie, number } };
  const headers = { "Content-Type": "application/octet-stream" };
  const bodySerializer = () => frame as BodyInit;
  return take(
    client.PUT("/api/movies/{movie}/frames/{number}", { params, headers, body: frame as never, bodySerializer }),
  );
}
