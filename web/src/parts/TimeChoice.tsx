/** Effect of a time edit on keys and spans, shown only when needed. */
export function TimeChoice<T extends string>(props: {
  title: string;
  value: T;
  choices: Record<T, string>;
  onChoice: (choice: T) => void;
}) {
  const { title, value, choices, onChoice } = props;
  return (
    <fieldset className="col-span-3 flex items-center gap-4 text-sm">
      <legend className="sr-only">{title}</legend>
      <span>{title}</span>
      {(Object.entries(choices) as [T, string][]).map(([choice, text]) => (
        <label key={choice} className="flex cursor-pointer items-center gap-1.5">
          <input
            type="radio"
            className="tick tick-round"
            checked={choice === value}
            onChange={() => onChoice(choice)}
          />
          {text}
        </label>
      ))}
    </fieldset>
  );
}
