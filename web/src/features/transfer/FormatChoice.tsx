import { serverTables } from "../../stores/serverTables";

/** The kinds of files that can be written, one row per ending, and the kinds of movies. */
export function FormatChoice(props: { value: string; disabled: boolean; onChange: (name: string) => void }) {
  const { value, disabled, onChange } = props;
  const written = serverTables().formats.filter((each) => each.writes);
  const kinds = written.filter(({ ending }, n) => written.findIndex((each) => each.ending === ending) === n);
  const chosen = written.find((each) => each.name === value)?.ending;
  const movies = serverTables().movies.map((each) => ({ ...each, carries: "the picture" }));
  return (
    <fieldset className="mb-3 flex flex-col gap-0.5" disabled={disabled}>
      <legend className="sr-only">Format</legend>
      {[...kinds, ...movies].map((each) => (
        <label
          key={each.name}
          title={`carries ${each.carries}`}
          className="flex cursor-pointer items-baseline gap-3 rounded-sm px-2 py-1 hover:bg-base-300/60"
        >
          <input
            type="radio"
            name="format"
            className="tick tick-round"
            checked={value === each.name || chosen === each.ending}
            onChange={() => onChange(each.name)}
          />
          <span className="num w-24 text-sm">{each.ending}</span>
          <span className="text-sm">{each.title.replace(/^[^:]*: /, "")}</span>
        </label>
      ))}
    </fieldset>
  );
}
