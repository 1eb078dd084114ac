import type { ReactNode } from "react";
import type { Layer, Param } from "../../api/types";
import { ChoiceField, SwitchField } from "./ChoiceField";
import { ParamField, type ParamFieldProps } from "./ParamField";

export type Source = Layer["source"];
export type SourceOf<K extends Source["kind"]> = Extract<Source, { kind: K }>;

/** A field of a source's form: a number, a choice or a switch, by the name it has in the document. */
export type SourceField<S> = { field: Extract<keyof S, string>; title: string } & (
  | ({ is: "number" } & Pick<ParamFieldProps, "unit" | "times" | "speed" | "least" | "most" | "digits" | "scales">)
  | { is: "choice"; choices: readonly (string | number)[] }
  | { is: "switch"; hint: string }
);

/** The form of a source from its fields, and below them what it has besides. */
export function SourceForm<S extends Source>(props: {
  layer: Layer;
  source: S;
  fields: readonly SourceField<S>[];
  children?: ReactNode;
}) {
  const { layer, source, fields, children } = props;
  return (
    <div className="grid grid-cols-4 gap-3">
      {fields.map((row) => {
        const at = `layer:${layer.id}.source.${row.field}`;
        const value: unknown = source[row.field];
        if (row.is === "number") return <ParamField key={at} {...row} at={at} param={value as Param} />;
        if (row.is === "choice") return <ChoiceField key={at} {...row} at={at} value={value as string | number} />;
        return <SwitchField key={at} {...row} at={at} value={value === true} />;
      })}
      {children}
    </div>
  );
}
