/** What is typed into a number, read by the server: units are converted to the field's own or refused. */
import { client, explain, take } from "../../api/client";
import type { Typed, TypedMany } from "../../api/types";
import { openShot } from "../../stores/openShot";
import { transport } from "../../stores/transport";

/** Where a number is typed: its unit, and its address in the open shot or how long a frame is elsewhere. */
export type TypedInto = { unit: string; at?: string; fps?: number };

function placeOf({ unit, at = "", fps }: TypedInto) {
  const shot = fps === undefined ? (openShot.getState().state?.slug ?? null) : null;
  return { unit, at, fps: fps ?? null, shot, frame: transport.getState().frame };
}

/** The number that a text stands for, where `before` stood, or what is wrong with it. */
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

/** The numbers that many texts of one field stand for. Throws with the place of the first that is none. */
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
