import type { Param } from "../../api/types";
import { NumberField } from "../../shared/NumberField";
import { cancelPreview, commit, preview } from "../../stores/session";

export type ParamFieldProps = {
  title: string;
  at: string;
  param: Param;
  unit: string;
  /** What is shown is this many times what is stored: 100 for percentages, 60 for beats a minute. */
  times?: number;
  speed: number;
  least: number;
  most: number;
  digits?: number;
  scales?: boolean;
};

/** A number of the shot with its name: fixed ones are dragged or typed, keyed ones say so. */
export function ParamField(props: ParamFieldProps) {
  const { title, at, param, unit, times = 1 } = props;
  const set = (shown: number) => ({ type: "set_values" as const, values: [{ at, value: shown / times }] });
  return (
    <div className="flex min-w-0 flex-col">
      <span className="cond text-(--graphite) text-xs">{title}</span>
      <span className="border-base-300 border-b">
        {param.state === "fixed" ? (
          <NumberField
            label={title}
            value={param.value * times}
            unit={unit}
            speed={props.speed}
            least={props.least}
            most={props.most}
            digits={props.digits}
            scales={props.scales}
            className="w-full text-left!"
            onPreview={(value) => preview(set(value))}
            onCommit={(value) => void commit(set(value))}
            onCancel={cancelPreview}
          />
        ) : (
          <button
            type="button"
            className="num w-full whitespace-nowrap px-1 text-left text-primary text-xs hover:underline"
            title="Keyed over the shot. Click to make it one fixed value, that of its first key"
            onClick={() =>
              void commit({ type: "set_values", values: [{ at, value: param.curve.keys[0]?.value ?? 0 }] })
            }
          >
            {param.curve.keys.length} pins
          </button>
        )}
      </span>
    </div>
  );
}
