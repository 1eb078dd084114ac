/** Motion packets. */
import { replaceEqualDeep } from "@tanstack/react-query";
import { MAX_WAIT_MS, Problem, unanswered } from "./client";
import { envelope } from "./envelope";
import { readPacket } from "./packet";
import type { Command, MotionHead, Readings } from "./types";

/** `zittern bench --browser` reads these measures; the detail is the Server-Timing header. */
const DECODED = "samples-decoded";

export type MotionArray = { tag: string; columns: number; data: Float32Array };
/** Known motion of a shot: arrays by name, readings with the tags of their layers. */
export type Known = { arrays: Map<string, MotionArray>; readings: Readings | null; layerTags: Map<string, string> };
export type MotionData = { head: MotionHead; arrays: Map<string, MotionArray>; layerTags: Map<string, string> };

export const NOTHING: Known = { arrays: new Map(), readings: null, layerTags: new Map() };

/** A packet, with arrays and readings that did not change taken from what was there before: the same objects, so that who shows them is left alone. */
export function decodeMotion(packet: ArrayBuffer, before: Known): MotionData {
  const { head, start } = readPacket<MotionHead>(packet, "motion");
  const arrays = new Map<string, MotionArray>();
  for (const each of head.arrays) {
    if (each.offset === null) {
      const unchanged = before.arrays.get(each.name);
      if (unchanged) arrays.set(each.name, unchanged);
      continue;
    }
    const data = new Float32Array(packet, start + each.offset, head.rows * each.columns);
    arrays.set(each.name, { tag: each.tag, columns: each.columns, data });
  }
  const rows = new Map([...(before.readings?.layers ?? []), ...head.readings.layers].map((row) => [row.layer, row]));
  const layers = head.layers.flatMap(({ layer }) => rows.get(layer) ?? []);
  return {
    head: { ...head, readings: replaceEqualDeep(before.readings, { ...head.readings, layers }) },
    arrays,
    layerTags: new Map(head.layers.map(({ layer, tag }) => [layer, tag])),
  };
}

/** Frames in view, and the range for whole-shot values. */
export type Look = {
  frame: number;
  revision: number | null;
  window: [number, number];
  loop: [number, number] | null;
  curves: string[];
  /** Whether the document with the commands is requested too. */
  told: boolean;
  /** Another variant than the one shown; null for the main one. */
  variant?: string | null;
};

/** Asks for a shot's motion with commands tried on. */
export async function fetchMotion(
  shot: string,
  commands: Command[],
  known: Known,
  { variant, ...look }: Look,
): Promise<MotionData> {
  const have = Object.fromEntries([...known.arrays].map(([name, array]) => [name, array.tag]));
  const have_layers = Object.fromEntries(known.layerTags);
  const request = JSON.stringify({ ...look, commands, have, have_layers });
  const answer = await post(`/api/shots/${shot}/motion`, request, envelope(variant));
  if (answer.status === 200) {
    const arrived = performance.now();
    const decoded = decodeMotion(answer.body, known);
    performance.measure(DECODED, { start: arrived, end: performance.now(), detail: answer.timing });
    return decoded;
  }
  throw new Problem(answer.status, parsed(answer.body));
}

type Answer = { status: number; body: ArrayBuffer; timing: string };

/** One turn from the answer to its bytes: `fetch` takes two more, and each may wait for a picture being drawn. */
function post(path: string, body: string, headers: Record<string, string>): Promise<Answer> {
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    request.open("POST", path);
    request.responseType = "arraybuffer";
    request.setRequestHeader("Content-Type", "application/json");
    for (const [name, value] of Object.entries(headers)) request.setRequestHeader(name, value);
    request.onload = () => {
      const timing = request.getResponseHeader("Server-Timing") ?? "";
      resolve({ status: request.status, body: request.response as ArrayBuffer, timing });
    };
    request.timeout = MAX_WAIT_MS;
    request.ontimeout = () => reject(unanswered(new DOMException("no answer", "TimeoutError")));
    request.onerror = () => reject(new Problem(0, {}));
    request.send(body);
  });
}

function parsed(body: ArrayBuffer): unknown {
  try {
    return JSON.parse(new TextDecoder().decode(body));
  } catch {
    return {};
  }
}
