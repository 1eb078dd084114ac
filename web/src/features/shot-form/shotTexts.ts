/** The form of a shot: its numbers as texts, as they are typed. */
import type { Picture, Shot } from "../../api/types";

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

/** Fields of the shot that the form changes. */
export function changes(shot: Shot, form: ShotForm): Record<string, unknown> {
  const before = textsOf(shot);
  const next: [keyof ShotForm, string, unknown][] = [
    ["name", "name", form.name.trim()],
    ["set", "set_id", form.set || null],
    ["fps", "fps", form.fps.trim()],
    ["first", "first_frame", Number(form.first)],
    ["last", "last_frame", Number(form.last)],
    ["sensor", "sensor_mm", Number(form.sensor)],
    ["picture", "picture", form.picture],
  ];
  const differs = ([text]: [keyof ShotForm, string, unknown]) =>
    JSON.stringify(form[text]) !== JSON.stringify(before[text]);
  return Object.fromEntries(next.filter(differs).map(([, field, value]) => [field, value]));
}
