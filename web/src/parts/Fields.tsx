import type { FieldLook, Param } from "../api/types";
import { valueAt } from "../shared/fields";
import { ParamControl, PlainControl } from "../shared/number";
import { ChoiceField, SwitchField } from "./ChoiceField";

type FieldsProps = {
  /** Address of the document that has the fields. */
  at: string;
  document: object;
  looks: FieldLook[];
  /** Every change of a number sets a key. */
  keys?: boolean;
};

/** A control for each of some fields of a document, as the server describes them. */
export function Fields({ at: owner, document, looks, keys }: FieldsProps) {
  return looks.map((look) => {
    const at = `${owner}.${look.field}`;
    const value = valueAt(document, look.field);
    if (look.kind === "number")
      return <ParamControl key={at} stacked at={at} param={value as Param} look={look} keys={keys} />;
    if (look.kind === "plain") return <PlainControl key={at} at={at} value={value as number} look={look} />;
    if (look.kind === "choice") return <ChoiceField key={at} at={at} look={look} value={value as string | number} />;
    return <SwitchField key={at} at={at} look={look} value={value === true} />;
  });
}
