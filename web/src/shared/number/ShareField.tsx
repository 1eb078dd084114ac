import { cancelPreview } from "../../stores/preview";
import { NumberField } from "./NumberField";

const PERCENT = 100;

type ShareFieldProps = {
  label: string;
  /** A share; 1 is shown as 100 %. So are the limits. */
  value: number;
  limits: readonly [number, number];
  /** A fine change, in percent. */
  step: number;
  scales?: boolean;
  className?: string;
  onPreview: (share: number) => void;
  onCommit: (share: number) => unknown;
};

/** A factor or share for a command, dragged in percent with a preview. */
export function ShareField({
  value,
  limits: [least, most],
  className = "",
  onPreview,
  onCommit,
  ...rest
}: ShareFieldProps) {
  return (
    <NumberField
      {...rest}
      value={value * PERCENT}
      unit="%"
      least={least * PERCENT}
      most={most * PERCENT}
      digits={0}
      className={`border border-base-300 ${className}`}
      onPreview={(percent) => onPreview(percent / PERCENT)}
      onCommit={(percent) => onCommit(percent / PERCENT)}
      onCancel={cancelPreview}
    />
  );
}
