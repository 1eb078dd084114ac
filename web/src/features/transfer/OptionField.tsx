import type { ReactNode } from "react";

type OptionFieldProps = {
  title: string;
  value: string;
  options: { value: string; title: string }[];
  onChange: (value: string) => void;
};

/** One of several. */
export function OptionField({ title, value, options, onChange }: OptionFieldProps) {
  return (
    <label className="flex min-w-0 flex-col gap-0.5">
      <span className="cond text-xs">{title}</span>
      <select className="select select-sm w-full" value={value} onChange={(event) => onChange(event.target.value)}>
        {options.map((each) => (
          <option key={each.value} value={each.value}>
            {each.title}
          </option>
        ))}
      </select>
    </label>
  );
}

/** A number under its title. */
export function NumberOption({ title, hint, children }: { title: string; hint: string; children: ReactNode }) {
  return (
    <span className="flex min-w-0 flex-col gap-0.5" title={hint}>
      <span className="cond text-xs">{title}</span>
      {children}
    </span>
  );
}
