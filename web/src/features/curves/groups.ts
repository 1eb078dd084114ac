/** Numbers of the selection in the sheet, in groups of one unit. */
import type { AxisName, Clip, Dial, FieldLook, Layer, MoveField, Param, Shot } from "../../api/types";
import { AXES } from "../../shared/axes";
import { dialGroup } from "../../shared/dialGroup";
import { fieldsOf, sourceFacts, valueAt } from "../../shared/fields";
import { workMount } from "../../stores/rig";
import { serverTables } from "../../stores/serverTables";

export type Track = {
  at: string;
  title: string;
  ink: AxisName;
  param: Param;
  /** Column of the pose arrays that shows what layers make of it, for numbers of the move. */
  poseColumn?: number;
};
/** Numbers of one unit; what is shown is `times` what is stored. */
export type CurveGroup = { title: string; unit: string; times: number; tracks: Track[] };

/** Data of a group for curves and table. */
export type GroupProps = { tracks: Track[]; unit: string; times: number; width: number };

/** Looks and their tracks, of one group and unit. */
function grouped(looks: FieldLook[], make: (look: FieldLook) => Track): CurveGroup[] {
  const groups = new Map<string, CurveGroup>();
  for (const look of looks.filter(({ kind }) => kind === "number")) {
    const { unit, times } = look;
    const name = `${look.group} ${unit}`;
    const group = groups.get(name) ?? { title: name, unit, times, tracks: [] };
    group.tracks.push(make(look));
    groups.set(name, group);
  }
  return [...groups.values()];
}

/** Groups of the camera's move: of the mount that is worked on, with what is on it. */
export function moveGroups(shot: Shot, chosen: string | null): CurveGroup[] {
  const mount = workMount(shot, chosen);
  if (!mount) return [];
  const looks = serverTables().forms.move;
  const pose = grouped(looks, (look) => {
    const { field, title, ink } = look;
    const lens = look.group === "lens";
    return {
      at: lens ? `shot.${field}` : `mount:${mount.id}.${field}`,
      title,
      ink,
      param: lens ? shot.focal_mm : mount[field as MoveField],
      poseColumn: lens || shot.mounts.length === 1 ? looks.indexOf(look) : undefined,
    };
  });
  const at = `mount:${mount.id}`;
  const more = [
    partGroups(at, mount, serverTables().forms.mount, ""),
    ...PARTS.map((part) => partGroups(`${at}.${part}`, mount[part], serverTables().forms[part], `${part}: `)),
    partGroups("shot.glass", shot.glass, serverTables().forms.glass, "lens: "),
    partGroups("shot.hold", shot.hold, serverTables().forms.hold, "hold framing: "),
  ];
  return [...pose, ...more.flat()];
}

const PARTS = ["operator", "springs", "ride"] as const;

/** Groups of what is on a mount, where it is there. */
function partGroups(at: string, part: object | null | undefined, looks: FieldLook[], called: string): CurveGroup[] {
  if (!part) return [];
  const groups = grouped(looks, (look) => ({
    at: `${at}.${look.field}`,
    title: look.title,
    ink: look.ink,
    param: valueAt(part, look.field) as Param,
  }));
  return groups.map((group) => ({ ...group, title: `${called}${group.title}` }));
}

/** Groups of a layer: its weight and speed, its source, and its swings, where it has any. */
export function layerGroups(layer: Layer): CurveGroup[] {
  const track = (at: string, document: unknown) => (look: FieldLook) => ({
    at: `${at}.${look.field}`,
    title: look.axis ?? look.title,
    ink: look.ink,
    param: valueAt(document, look.field) as Param,
  });
  const at = `layer:${layer.id}`;
  const looks = serverTables().forms.layer;
  const source = grouped(fieldsOf(layer.source), track(`${at}.source`, layer.source));
  const own = grouped(
    looks.filter(({ axis }) => !axis),
    track(at, layer),
  );
  if (sourceFacts(layer.source).absolute) return [...source, ...own];
  const swings = grouped(
    looks.filter(({ axis }) => axis),
    track(at, layer),
  );
  return [...own, ...source, ...swings];
}

/** Groups of a clip: its amount and speed, and its place where it is a blend. */
export function clipGroups(clip: Clip): CurveGroup[] {
  const { clip: own, blend } = serverTables().forms;
  const at = `clip:${clip.id}`;
  return [...partGroups(at, clip, own, ""), ...partGroups(`${at}.blend`, clip.blend, blend, "blend: ")];
}

/** Whether a group is of dials. */
export const ofDials = ({ tracks }: CurveGroup) => tracks.some(({ at }) => at.startsWith("dial:"));

/** Groups of the dials, those of one unit together. */
export function dialGroups(dials: Dial[]): CurveGroup[] {
  return [...new Set(dials.map(({ unit }) => unit))].map((unit) => ({
    title: dialGroup(unit),
    unit,
    times: 1,
    tracks: dials.flatMap((dial, index) => {
      const ink = AXES[index % AXES.length] ?? "zoom";
      return dial.unit === unit ? [{ at: `dial:${dial.name}.value`, title: dial.name, ink, param: dial.value }] : [];
    }),
  }));
}
