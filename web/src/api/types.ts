/** Short names for the generated types. */
import type { components } from "./schema";

type Schemas = components["schemas"];

export type Shot = Schemas["Shot"];
export type Clip = Schemas["Clip"];
export type Layer = Schemas["Layer"];
export type AxisSetting = Schemas["AxisSetting"];
export type Param = Schemas["Fixed"] | Schemas["Keyed"];
export type Noise = Schemas["Noise"];
export type Wave = Schemas["Wave"];
export type State = Schemas["StateOut"];
export type Command = Schemas["EditIn"]["command"];
export type Project = Schemas["ProjectOut"];
export type ShotCard = Schemas["ShotCard"];
export type MotionHead = Schemas["MotionHead"];
export type Readings = Schemas["Readings"];
export type AxisReading = Schemas["AxisReading"];
export type Spectrum = Schemas["SpectrumOut"];
export type Revision = Schemas["RevisionOut"];
export type History = Schemas["HistoryOut"];
export type Tidying = Schemas["TidyOut"];
export type Scribble = Schemas["ScribbleOut"];
export type Subject = Schemas["Subject"];
export type SetObjects = Schemas["SetOut"];
export type Tables = Schemas["TablesOut"];
export type Job = Schemas["JobOut"];
export type CameraFile = Schemas["CameraFileOut"];
export type Imported = Schemas["ImportedOut"];
export type AxisName = Schemas["AxisReading"]["axis"];
export type SourceKind = Schemas["AddLayer"]["source"];
