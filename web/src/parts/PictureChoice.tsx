import { useState } from "react";
import type { Picture } from "../api/types";
import { serverTables } from "../stores/serverTables";

const OTHER = "Custom …";

const titled = ({ width_px, height_px }: Picture) => `${width_px} × ${height_px}`;

/** Size of the picture in pixels: a common one, or any. */
export function PictureChoice({ value, onChange }: { value: Picture; onChange: (picture: Picture) => void }) {
  const sizes = serverTables().forms.pictures;
  const [own, setOwn] = useState(!sizes.some((each) => titled(each) === titled(value)));
  const number = (title: string, field: keyof Picture) => (
    <input
      className="input input-sm num w-full"
      aria-label={title}
      inputMode="numeric"
      pattern="[0-9]+"
      title="Whole pixels, digits only"
      value={String(value[field] || "")}
      onChange={(event) => {
        // Fractions are rejected.
        if (/^\d*$/.test(event.target.value)) onChange({ ...value, [field]: Number(event.target.value) });
      }}
    />
  );
  const choose = (title: string) => {
    const size = sizes.find((each) => titled(each) === title);
    if (size) onChange(size);
    else setOwn(true);
  };
  return (
    <div className="flex flex-col gap-1 text-sm">
      <span>Resolution</span>
      {own ? (
        <span className="flex items-center gap-1">
          {number("Width of the picture in pixels", "width_px")}×
          {number("Height of the picture in pixels", "height_px")}
          <span className="num text-xs">px</span>
        </span>
      ) : (
        <select
          className="select select-sm w-full"
          aria-label="Resolution"
          value={titled(value)}
          onChange={(event) => choose(event.target.value)}
        >
          {sizes.map((each) => (
            <option key={titled(each)}>{titled(each)}</option>
          ))}
          <option>{OTHER}</option>
        </select>
      )}
    </div>
  );
}
