/** Which numbers the sheet shows for what is selected, in groups of one unit. */
import type { AxisName, Layer, Param, Shot } from "../../api/types";
import { AXES, UNITS } from "../../shared/axes";
import { fieldsOf } from "../../shared/sourceFields";

export type Track = {
  at: string;
  title: string;
  ink: AxisName;
  param: Param /** Column of the pose arrays with the shaken result, for numbers of the move. */;
  shaken?: number;
};
/** Numbers of one unit; what is shown is `times` what is stored, or just that. */
export type CurveGroup = { title: string; unit: string; times?: number; tracks: Track[] };

/** What curves and table draw of a group. */
export type GroupProps = { tracks: Track[]; unit: string; times: number; width: number };

/** Groups of the camera's move. */
export function moveGroups(shot: Shot, chosen: string | null): CurveGroup[] {
  const mount = shot.mounts.find((each) => each.id === chosen) ?? shot.mounts.at(-1);
  const alone = shot.mounts.length === 1;
  if (!mount) return [];
  const track = (
    field: "x_m" | "y_m" | "z_m" | "pan_deg" | "tilt_deg" | "roll_deg",
    title: string,
    ink: AxisName,
    shaken: number,
  ): Track => ({
    at: `mount:${mount.id}.${field}`,
    title,
    ink,
    param: mount[field],
    shaken: alone ? shaken : undefined,
  });
  return [
    {
      title: "position",
      unit: "m",
      tracks: [track("x_m", "x", "truck", 0), track("y_m", "height", "pedestal", 1), track("z_m", "z", "dolly", 2)],
    },
    {
      title: "angles",
      unit: "°",
      tracks: [
        track("pan_deg", "pan", "pan", 3),
        track("tilt_deg", "tilt", "tilt", 4),
        track("roll_deg", "roll", "roll", 5),
      ],
    },
    {
      title: "lens",
      unit: "mm",
      tracks: [{ at: "shot.focal_mm", title: "focal length", ink: "zoom", param: shot.focal_mm, shaken: 6 }],
    },
  ];
}

/** Groups of a layer: its weight and speed, its source, its swings, and the tracks of hand keys. */
export function layerGroups(layer: Layer): CurveGroup[] {
  const at = `layer:${layer.id}`;
  const groups: CurveGroup[] = [
    {
      title: "weight, speed %",
      unit: "%",
      times: 100,
      tracks: [
        { at: `${at}.weight`, title: "weight", ink: "pedestal", param: layer.weight },
        { at: `${at}.speed`, title: "speed", ink: "pan", param: layer.speed },
      ],
    },
  ];
  const { source } = layer;
  for (const row of fieldsOf(source)) {
    if (row.is !== "number") continue;
    const { field, title, unit, times } = row;
    const param = source[field] as unknown as Param;
    groups.push({
      title: `${title} ${unit}`,
      unit,
      times,
      tracks: [{ at: `${at}.source.${field}`, title, ink: "roll", param }],
    });
  }
  const perAxis = (
    title: string,
    axes: readonly AxisName[],
    unit: string,
    make: (axis: AxisName) => [string, Param],
  ): CurveGroup => ({
    title: `${title} ${unit}`,
    unit,
    tracks: axes.map((axis) => {
      const [address, param] = make(axis);
      return { at: address, title: axis, ink: axis, param };
    }),
  });
  const make: (axis: AxisName) => [string, Param] =
    source.kind === "keys"
      ? (axis) => [`${at}.source.tracks.${axis}`, source.tracks[axis]]
      : (axis) => [`${at}.axes.${axis}.swing`, layer.axes[axis].swing];
  const title = source.kind === "keys" ? "keys" : "swing";
  for (const unit of ["°", "cm", "%"])
    groups.push(
      perAxis(
        title,
        AXES.filter((axis) => UNITS[axis] === unit),
        unit,
        make,
      ),
    );
  if ("phase_deg" in source)
    groups.push(perAxis("phase", AXES, "°", (axis) => [`${at}.source.phase_deg.${axis}`, source.phase_deg[axis]]));
  return source.kind === "keys" ? [...groups.slice(1), ...groups.slice(0, 1)] : groups;
}
