import { useStore } from "zustand";
import { NumberField } from "../../shared/number";
import { transport } from "../../stores/transport";
import type { Format } from "./KeyFields";
import { NumberOption, OptionField } from "./OptionField";
import type { ExportSettings } from "./useExport";

const MOST_NUMBER = 10_000_000;

/** Frames that are written, and the number of the first one. */
export type Range = Pick<ExportSettings, "first_frame" | "last_frame" | "first_number">;

export const WHOLE_SHOT: Range = { first_frame: null, last_frame: null, first_number: null };

/** Returns the part of a range that a format has. */
export function rangeOf(range: Range, format: Format | undefined): Range {
  if (format?.kind === "shot") return WHOLE_SHOT;
  return format?.has_frame_numbers ? range : { ...range, first_number: null };
}

type RangeFieldsProps = {
  range: Range;
  format: Format | undefined;
  disabled: boolean;
  onChange: (range: Range) => void;
};

/** Fields for the range of a file. */
export function RangeFields({ range, format, disabled, onChange }: RangeFieldsProps) {
  const loop = useStore(transport, (each) => each.loop);
  const first = useStore(transport, (each) => each.first);
  const [from, to] = loop ?? [range.first_frame, range.last_frame];
  const options = [{ value: "all", title: "whole shot" }];
  if (from !== null) options.push({ value: "loop", title: `loop range ${from}–${to}` });
  return (
    <>
      <OptionField
        title="Frames"
        value={range.first_frame === null ? "all" : "loop"}
        options={options}
        onChange={(value) =>
          onChange({
            ...range,
            first_frame: value === "loop" ? from : null,
            last_frame: value === "loop" ? to : null,
          })
        }
      />
      {format?.has_frame_numbers && (
        <NumberOption title="First number" hint="Number of the first frame in the file">
          <NumberField
            label="First number"
            value={range.first_number ?? range.first_frame ?? first}
            unit="f"
            step={1}
            least={-MOST_NUMBER}
            most={MOST_NUMBER}
            digits={0}
            disabled={disabled}
            className="w-full text-left!"
            onCommit={(number) => onChange({ ...range, first_number: number })}
          />
        </NumberOption>
      )}
    </>
  );
}
