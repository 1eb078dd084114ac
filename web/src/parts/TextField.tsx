/** A line of text with its label and unit; the typed text stays until the server has parsed it. */
export function TextField(props: {
  title: string;
  unit?: string;
  value: string;
  wide?: boolean;
  label?: string;
  most?: number;
  onChange: (text: string) => void;
}) {
  const { title, unit, value, wide, label, most, onChange } = props;
  return (
    <label className={`flex flex-col gap-1 text-sm ${wide ? "col-span-2" : ""}`}>
      {title}
      <span className="input input-sm w-full">
        <input
          className={unit ? "num" : ""}
          aria-label={label}
          maxLength={most}
          value={value}
          onChange={(event) => onChange(event.target.value)}
        />
        {unit && <span className="num text-xs">{unit}</span>}
      </span>
    </label>
  );
}
