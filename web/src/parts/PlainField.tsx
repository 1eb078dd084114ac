import { NumberField, Stacked } from "../shared/number";

type PlainFieldProps = {
  title: string;
  value: number;
  limits: [number, number];
  onValue: (value: number) => Promise<void>;
};

const STEP_FRAMES = 0.25;

/** A number of frames that is never keyed: an end of a span, a ramp. */
export function PlainField({ title, value, limits: [least, most], onValue }: PlainFieldProps) {
  return (
    <Stacked title={title}>
      <NumberField
        label={title}
        value={value}
        unit="f"
        step={STEP_FRAMES}
        least={least}
        most={most}
        digits={0}
        className="w-full text-left!"
        onCommit={(shown) => onValue(Math.round(shown))}
      />
    </Stacked>
  );
}
