type TickProps = {
  title: string;
  hint?: string;
  on: boolean;
  onChange: (on: boolean) => void;
  className?: string;
};

/** A small box that is ticked, before its title. */
export function Tick({ title, hint, on, onChange, className = "" }: TickProps) {
  return (
    <label className={`flex cursor-pointer items-center gap-1.5 ${className}`} title={hint}>
      <input type="checkbox" className="tick" checked={on} onChange={(event) => onChange(event.target.checked)} />
      {title}
    </label>
  );
}
