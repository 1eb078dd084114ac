import { changeDraft, type TimeDraft } from "../../stores/timeEdit";

type WaysProps = { draft: TimeDraft; gap: boolean; runs: boolean };

/** Behavior of keyed segments in new frames, and of shakes after the cut. */
export function Ways({ draft, gap, runs }: WaysProps) {
  return (
    <>
      {gap && (
        <Choice
          label="Keys"
          value={draft.gap}
          choices={[
            { value: "hold", title: "hold", told: "The camera holds its pose over the new frames" },
            { value: "through", title: "run through", told: "Stretch the move across the new frames" },
          ]}
          onChoose={(value) => changeDraft({ gap: value })}
        />
      )}
      {runs && (
        <Choice
          label="Shakes"
          value={draft.runs}
          choices={[
            { value: "on", title: "run on", told: "Shake continues across the edit" },
            {
              value: "keep",
              title: "stay unchanged",
              told: "Later content keeps its motion; clips are split and cross-fade",
            },
          ]}
          onChoose={(value) => changeDraft({ runs: value })}
        />
      )}
    </>
  );
}

type ChoiceProps<T extends string> = {
  label: string;
  value: T;
  choices: { value: T; title: string; told: string }[];
  onChoose: (value: T) => void;
};

function Choice<T extends string>({ label, value, choices, onChoose }: ChoiceProps<T>) {
  return (
    <label className="flex shrink-0 items-center gap-1">
      <span className="text-(--graphite)">{label}</span>
      <select
        className="select select-xs w-auto"
        value={value}
        title={choices.find((each) => each.value === value)?.told}
        onChange={(event) => onChoose(event.target.value as T)}
      >
        {choices.map((each) => (
          <option key={each.value} value={each.value} title={each.told}>
            {each.title}
          </option>
        ))}
      </select>
    </label>
  );
}
