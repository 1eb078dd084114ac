import { NameInput } from "../shared/NameInput";
import { commit } from "../stores/editing";

const MAX_CHARACTERS = 120;

/** The name of a layer or clip, changed in place. */
export function NameField({ at, name, label }: { at: string; name: string; label: string }) {
  return (
    <NameInput
      name={name}
      label={label}
      most={MAX_CHARACTERS}
      className="border-transparent hover:border-base-300"
      onName={(value) => void commit({ type: "set_values", values: [{ at, value }] })}
    />
  );
}
