import { useState } from "react";

const SIZES = ["1920 × 1080", "2048 × 858", "3840 × 2160", "1080 × 1920", "1440 × 1080"];
const OTHER = "another size …";

export type Picture = { width_px: number; height_px: number };

const titled = ({ width_px, height_px }: Picture) => `${width_px} × ${height_px}`;

/** Size of the picture in pixels: a common one, or any. */
export function PictureChoice({ value, onChange }: { value: Picture; onChange: (picture: Picture) => void }) {
  const [own, setOwn] = useState(!SIZES.includes(titled(value)));
  const number = (title: string, field: keyof Picture) => (
    <input
      className="input input-sm num w-full"
      aria-label={title}
      inputMode="numeric"
      value={String(value[field] || "")}
      onChange={(event) => onChange({ ...value, [field]: Number(event.target.value.replace(/\D/g, "")) })}
    />
  );
  return (
    <div className="flex flex-col gap-1 text-sm">
      <span>Picture</span>
      {own ? (
        <span className="flex items-center gap-1">
          {number("Width of the picture in pixels", "width_px")}×
          {number("Height of the picture in pixels", "height_px")}
          <span className="num text-xs">px</span>
        </span>
      ) : (
        <select
          className="select select-sm w-full"
          aria-label="Picture"
          value={titled(value)}
          onChange={(event) => {
            if (event.target.value === OTHER) {
              setOwn(true);
              return;
            }
            const [width_px = 1920, height_px = 1080] = event.target.value.split(" × ").map(Number);
            onChange({ width_px, height_px });
          }}
        >
          {SIZES.map((each) => (
            <option key={each}>{each}</option>
          ))}
          <option>{OTHER}</option>
        </select>
      )}
    </div>
  );
}
