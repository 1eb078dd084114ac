import { usePending } from "../../shared/usePending";
import { placesAlike } from "../../stores/selection";
import { commit } from "../../stores/session";

/** A choice of the shot with its name. */
export function ChoiceField(props: {
  title: string;
  at: string;
  value: string | number;
  choices: readonly (string | number)[];
  /** The choice that stands for nothing. */
  none?: string;
}) {
  const { title, at, choices, none } = props;
  const value = usePending<string | number | null>(at, props.value) ?? none;
  return (
    <label className="flex min-w-0 flex-col">
      <span className="cond text-(--graphite) text-xs">{title}</span>
      <select
        className="num w-full border-base-300 border-b bg-base-100 text-xs"
        value={String(value)}
        onChange={(event) => {
          const chosen = choices.find((each) => String(each) === event.target.value);
          const next = chosen === undefined || chosen === none ? null : chosen;
          void commit({ type: "set_values", values: placesAlike(at).map((place) => ({ at: place, value: next })) });
        }}
      >
        {choices.map((each) => (
          <option key={each}>{each}</option>
        ))}
      </select>
    </label>
  );
}

/** A switch of the shot with its name. */
export function SwitchField(props: { title: string; at: string; value: boolean; hint: string; wide?: boolean }) {
  const { title, at, hint, wide } = props;
  const value = usePending(at, props.value);
  return (
    <label className={`flex min-w-0 cursor-pointer flex-col ${wide ? "col-span-2" : ""}`} title={hint}>
      <span className="cond text-(--graphite) text-xs">{title}</span>
      <span className="flex items-center gap-2 border-base-300 border-b text-xs">
        <input
          type="checkbox"
          className="checkbox checkbox-xs h-3 w-3 rounded-[2px] p-0"
          checked={value}
          onChange={(event) => {
            const next = event.target.checked;
            void commit({ type: "set_values", values: placesAlike(at).map((place) => ({ at: place, value: next })) });
          }}
        />
        <span className="num">{value ? "on" : "off"}</span>
      </span>
    </label>
  );
}
