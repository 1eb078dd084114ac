import { NumberField } from "../../shared/NumberField";
import { placesAlike } from "../../stores/selection";
import { commit } from "../../stores/session";

/** A number of the shot that is never keyed, such as a ramp. `onValue` says what to do with it instead of storing it. */
export function PlainField(props: {
  title: string;
  at: string;
  value: number;
  unit: string;
  least: number;
  most: number;
  onValue?: (shown: number) => Promise<void>;
}) {
  const { title, at, value, unit, least, most } = props;
  const store = (shown: number) =>
    commit({ type: "set_values", values: placesAlike(at).map((place) => ({ at: place, value: shown })) });
  return (
    <div className="flex min-w-0 flex-col">
      <span className="cond text-(--graphite) text-xs">{title}</span>
      <span className="border-base-300 border-b">
        <NumberField
          label={title}
          value={value}
          unit={unit}
          speed={0.25}
          least={least}
          most={most}
          digits={0}
          className="w-full text-left!"
          onCommit={(shown) => (props.onValue ?? store)(Math.round(shown))}
        />
      </span>
    </div>
  );
}
