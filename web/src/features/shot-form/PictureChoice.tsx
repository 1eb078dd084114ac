const SIZES = ["1920 × 1080", "2048 × 858", "3840 × 2160", "1080 × 1920", "1440 × 1080"];

export type Picture = { width_px: number; height_px: number };

const titled = ({ width_px, height_px }: Picture) => `${width_px} × ${height_px}`;

/** Size of the picture in pixels. */
export function PictureChoice({ value, onChange }: { value: Picture; onChange: (picture: Picture) => void }) {
  const now = titled(value);
  return (
    <label className="flex flex-col gap-1 text-sm">
      Picture
      <select
        className="select select-sm w-full"
        value={now}
        onChange={(event) => {
          const [width_px = 1920, height_px = 1080] = event.target.value.split(" × ").map(Number);
          onChange({ width_px, height_px });
        }}
      >
        {!SIZES.includes(now) && <option>{now}</option>}
        {SIZES.map((each) => (
          <option key={each}>{each}</option>
        ))}
      </select>
    </label>
  );
}
