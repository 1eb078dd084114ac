/** The form of a shot: its numbers as typed texts. */
import type { Picture, Shot } from "../api/types";
import { typedNumber } from "../shared/number";

export type ShotForm = {
  name: string;
  set: string;
  fps: string;
  first: string;
  last: string;
  sensor: string;
  picture: Picture;
};

const fpsText = ({ num, den }: { num: number; den: number }) => (den === 1 ? String(num) : `${num}/${den}`);

export function textsOf(shot: Shot): ShotForm {
  return {
    name: shot.name,
    set: shot.set_id ?? "",
    fps: fpsText(shot.fps),
    first: String(shot.first_frame),
    last: String(shot.last_frame),
    sensor: String(shot.sensor_mm),
    picture: shot.picture,
  };
}

/** Frames per second of what is typed: 24, 23.976, 24000/1001. Throws where it is none. */
export async function typedFps(text: string): Promise<number> {
  const fps = await typedNumber("Frame rate", text, { unit: "fps", fps: 1 });
  if (fps <= 0) throw new Error("Frame rate: expected a number above 0, for example 24 or 24000/1001");
  return fps;
}

/** Fields of the shot that the form changes. Throws with the title of one that cannot be read. */
export async function changes(shot: Shot, form: ShotForm): Promise<Record<string, unknown>> {
  const before = textsOf(shot);
  const differs = (text: keyof ShotForm) => JSON.stringify(form[text]) !== JSON.stringify(before[text]);
  const fps = await typedFps(form.fps);
  const number = (title: string, text: string, unit: string) => typedNumber(title, text, { unit, fps });
  const next: [keyof ShotForm, string, () => unknown][] = [
    ["name", "name", () => form.name.trim()],
    ["set", "set_id", () => form.set || null],
    ["fps", "fps", () => form.fps.trim()],
    ["first", "first_frame", () => number("First frame", form.first, "f").then(Math.round)],
    ["last", "last_frame", () => number("Last frame", form.last, "f").then(Math.round)],
    ["sensor", "sensor_mm", () => number("Sensor width", form.sensor, "mm")],
    ["picture", "picture", () => form.picture],
  ];
  const changed: Record<string, unknown> = {};
  for (const [text, field, value] of next) if (differs(text)) changed[field] = await value();
  return changed;
}
