import type { ComponentProps } from "react";
import { NumberField } from "./NumberField";
import { Stacked } from "./Stacked";

type StackedNumberProps = Omit<ComponentProps<typeof NumberField>, "label" | "className"> & {
  title: string;
  hint?: string;
};

/** A number under its title, as wide as there is room. */
export function StackedNumber({ title, hint, ...field }: StackedNumberProps) {
  return (
    <Stacked title={title} hint={hint}>
      <NumberField {...field} label={title} className="w-full text-left!" />
    </Stacked>
  );
}
