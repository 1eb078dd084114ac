import { Tick } from "../../shared/Tick";

type OnOffProps = {
  title: string;
  hint: string;
  on: boolean;
  onChange: (on: boolean) => void;
  children?: React.ReactNode;
};

/** Whether a mount has this part, and its actions. */
export function OnOff({ title, hint, on, onChange, children }: OnOffProps) {
  return (
    <div className="flex items-center gap-2">
      <Tick title={title} hint={hint} on={on} onChange={onChange} className="cond text-[13px]" />
      {children}
    </div>
  );
}
