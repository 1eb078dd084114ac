type VariantChoiceProps = {
  variants: { id: string; name: string }[];
  chosen: string[];
  disabled: boolean;
  onChange: (chosen: string[]) => void;
};

/** The variants of which a file each is written. */
export function VariantChoice({ variants, chosen, disabled, onChange }: VariantChoiceProps) {
  const flip = (id: string) => onChange(chosen.includes(id) ? chosen.filter((each) => each !== id) : [...chosen, id]);
  return (
    <fieldset className="mb-4 flex flex-wrap items-center gap-x-4 gap-y-1 text-sm" disabled={disabled}>
      <legend className="sr-only">Variants, a file each</legend>
      <span>Variants</span>
      {variants.map(({ id, name }) => (
        <label key={id} className="flex min-h-6 min-w-0 cursor-pointer items-center gap-1.5">
          <input type="checkbox" className="tick" checked={chosen.includes(id)} onChange={() => flip(id)} />
          <span className="cond max-w-40 truncate" title={name}>
            {name}
          </span>
        </label>
      ))}
    </fieldset>
  );
}
