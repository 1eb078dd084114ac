import type { ReactNode } from "react";
import type { Layer, Param } from "../../api/types";
import type { Source, SourceField } from "../../shared/sourceFields";
import { ChoiceField, SwitchField } from "./ChoiceField";
import { ParamField } from "./ParamField";

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
