/** Fields of layers, sources and the move, as the server describes them. */
import type { FieldLook, Layer, SourceFacts } from "../api/types";
import { serverTables } from "../stores/serverTables";

export type Source = Layer["source"];

/** The server's description of a kind of source. */
export function sourceFacts(source: Source): SourceFacts {
  const found = serverTables().sources.find(({ kind }) => kind === source.kind);
  if (!found) throw new Error(`no source is called ${source.kind}`);
  return found;
}

/** Looks of some fields: those that hold for how their document stands. */
export function holding(looks: FieldLook[], document: object): FieldLook[] {
  const values = document as Record<string, unknown>;
  return looks.filter(({ only }) => !only || values[only[0]] === only[1]);
}

/** Looks of the fields of a source that hold for how it stands. */
export function fieldsOf(source: Source): FieldLook[] {
  return holding(sourceFacts(source).fields, source);
}

/** The look of a field of all layers. */
export function layerField(field: string): FieldLook {
  const found = serverTables().forms.layer.find((look) => look.field === field);
  if (!found) throw new Error(`layers have no field ${field}`);
  return found;
}

/** Least and most of a number in a command: `scale_swings.factor`. */
export function limitsOf(number: string): [number, number] {
  return serverTables().forms.limits[number] ?? [-Infinity, Infinity];
}

/** The value in a document at a path such as `source.rate_hz`. */
export function valueAt(document: unknown, path: string): unknown {
  return path.split(".").reduce<unknown>((value, name) => (value as Record<string, unknown>)[name], document);
}
