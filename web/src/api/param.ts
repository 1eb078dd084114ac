/** The states that a number may be in. Other modules do not distinguish them. */
import type { Curve, Formula, Key, Param } from "./types";

const NO_KEYS: Key[] = [];

/** Its keys, where it has any. */
export function keysOf(param: Param): Key[] {
  return param.state === "keyed" ? param.curve.keys : NO_KEYS;
}

/** Its curve, where it has one. */
export function curveOf(param: Param): Curve | null {
  return param.state === "keyed" ? param.curve : null;
}

/** Whether its value depends on the frame and must be sampled by the server. */
export function varies(param: Param): boolean {
  return param.state !== "fixed";
}

/** A value to go by until samples are there. */
export function roughly(param: Param): number {
  if (param.state === "fixed") return param.value;
  if (param.state === "keyed") return param.curve.keys[0]?.value ?? 0;
  return param.before ? roughly(param.before) : 0;
}

/** Its formula, where it has one. */
export function formulaOf(param: Param): Formula | null {
  return param.state === "formula" ? param : null;
}
