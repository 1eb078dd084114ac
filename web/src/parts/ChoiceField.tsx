import { usePending } from "../shared/usePending";
import { commit } from "../stores/editing";
import { placesAlike } from "../stores/selection";

type ChoiceFieldProps = {
  at: string;
  look: { title: string; choices: (string | number)[]; titles?: Record<string, string> };
  value: string | number;
  /** Display names of choices. */
  titles?: Record<string, string>;
  /** The choice for no value. */
  none?: string;
};

const setAll = (at: string, value: unknown) =>
  void commit({ type: "set_values", values: placesAlike(at).map((place) => ({ at: place, value })) });

/** A choice of the shot with its name. */
export function ChoiceField({ at, look, none, titles, ...props }: ChoiceFieldProps) {
  const value = usePending<string | number | null>(at, props.value) ?? none;
  return (
    <label className="flex min-w-0 flex-col">
      <span className="cond text-(--graphite) text-xs">{look.title}</span>
      <select
        className="cond w-full border-base-300 border-b bg-base-100 text-[13px]"
        value={String(value)}
        onChange={(event) => {
          const chosen = look.choices.find((each) => String(each) === event.target.value);
          setAll(at, chosen === undefined || chosen === none ? null : chosen);
        }}
      >
        {look.choices.map((each) => (
          <option key={each} value={String(each)}>
            {titles?.[String(each)] ?? look.titles?.[String(each)] ?? each}
          </option>
        ))}
      </select>
    </label>
  );
}

/** A switch of the shot with its name. */
export function SwitchField({
  at,
  look,
  ...props
}: {
  at: string;
  look: { title: string; hint: string };
  value: boolean;
}) {
  const value = usePending(at, props.value);
  return (
    <label className="flex min-w-0 cursor-pointer flex-col" title={look.hint}>
      <span className="cond text-(--graphite) text-xs">{look.title}</span>
      <span className="flex items-center gap-2 border-base-300 border-b text-xs">
        <input
          type="checkbox"
          className="tick"
          checked={value}
          onChange={(event) => setAll(at, event.target.checked)}
        />
        <span className="num">{value ? "on" : "off"}</span>
      </span>
    </label>
  );
}
