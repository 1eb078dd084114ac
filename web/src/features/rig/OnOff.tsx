type OnOffProps = {
  title: string;
  hint: string;
  on: boolean;
  onChange: (on: boolean) => void;
  children?: React.ReactNode;
};

/** Whether something is on a mount at all, and what is done with it beside. */
export function OnOff({ title, hint, on, onChange, children }: OnOffProps) {
  return (
    <div className="flex items-center gap-2">
      <label className="cond flex cursor-pointer items-center gap-1.5 text-[13px]" title={hint}>
        <input
          type="checkbox"
          className="checkbox checkbox-xs h-3 w-3 rounded-[2px] p-0"
          checked={on}
          onChange={(event) => onChange(event.target.checked)}
        />
        {title}
      </label>
      {children}
    </div>
  );
}
