/** Typed numbers, parsed by the server: units are converted to the field's unit or rejected. */
import { client, explain, take } from "../../api/client";
import type { Typed, TypedMany } from "../../api/types";
import { openShot } from "../../stores/openShot";
import { transport } from "../../stores/transport";

/** Context of a typed number: its unit, and its address in the open shot or otherwise the frame rate. */
export type TypedInto = { unit: string; at?: string; fps?: number };

function placeOf({ unit, at = "", fps }: TypedInto) {
  const shot = fps === undefined ? (openShot.getState().state?.slug ?? null) : null;
  return { unit, at, fps: fps ?? null, shot, frame: transport.getState().frame };
}

/** The value of a text, where `before` is the present one, or its error. */
export async function arithmetic(
  text: string,
  before: number,
  into: TypedInto,
): Promise<{ value: number } | { fault: string }> {
  try {
    const body = { text, before, ...placeOf(into) };
    const { value, fault } = await take<Typed>(client.POST("/api/arithmetic", { body }));
    return value === null ? { fault: fault ?? "not a number" } : { value };
  } catch (error) {
    return { fault: explain(error) };
  }
}

/** The values of many texts of one field. Throws with the place of the first that is none. */
export async function arithmeticOf(texts: string[], into: TypedInto): Promise<number[]> {
  const body = { texts, ...placeOf(into) };
  const { values, wrong, fault } = await take<TypedMany>(client.POST("/api/arithmetic/many", { body }));
  if (wrong !== null && wrong !== undefined) throw new WrongText(wrong, fault ?? "not a number");
  return values;
}

export class WrongText extends Error {
  constructor(
    readonly index: number,
    fault: string,
  ) {
    super(fault);
  }
}

/** A number that is typed into a form, by its title. Throws with the title where it is none. */
export async function typedNumber(title: string, text: string, into: TypedInto): Promise<number> {
  const read = await arithmetic(text, 0, into);
  if ("fault" in read) throw new Error(`${title}: ${read.fault}`);
  return read.value;
}
