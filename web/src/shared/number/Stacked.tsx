type StackedProps = {
  title: string;
  /** Tooltip; by default the title. */
  hint?: string;
  dot?: React.ReactNode;
  children: React.ReactNode;
};

/** A number under its title. */
export function Stacked({ title, hint, dot, children }: StackedProps) {
  return (
    <div className="flex min-w-0 flex-col" title={hint}>
      <span
        className="cond flex items-center gap-1.5 truncate text-(--graphite) text-xs"
        title={hint === undefined ? title : undefined}
      >
        {dot}
        {title}
      </span>
      <span className="border-base-300 border-b">{children}</span>
    </div>
  );
}
