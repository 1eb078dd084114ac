import type { FormulaName } from "../../api/types";

type NameListProps = { id: string; names: FormulaName[]; chosen: number; onTake: (name: FormulaName) => void };

/** Names that fit, each with a line; above the text, so that what is under it stays in view. */
export function NameList({ id, names, chosen, onTake }: NameListProps) {
  if (names.length === 0) return null;
  return (
    <div
      id={id}
      role="listbox"
      aria-label="Names that fit"
      className="absolute bottom-full left-0 z-30 mb-1 w-full rounded-md border border-base-300 bg-base-100 p-1 shadow-lg"
    >
      {names.map((name, index) => (
        <div
          key={name.name}
          id={`${id}-${index}`}
          role="option"
          aria-selected={index === chosen}
          tabIndex={-1}
          className={`flex min-h-6 w-full cursor-pointer items-baseline gap-2 rounded-sm px-2 py-0.5 ${index === chosen ? "bg-(--wash)" : "hover:bg-base-200"}`}
          onPointerDown={(event) => {
            event.preventDefault();
            onTake(name);
          }}
        >
          <span className="num shrink-0 text-xs">{name.written}</span>
          <span className="cond truncate text-(--graphite) text-xs">{name.told}</span>
        </div>
      ))}
    </div>
  );
}
