type LetterSwitchProps = { letter: string; title: string; on: boolean; low?: boolean; onFlip: () => void };

/** A switch of one letter in the head of a row: M for mute, S for solo. */
export function LetterSwitch({ letter, title, on, low, onFlip }: LetterSwitchProps) {
  const size = low ? "h-[16px] w-[16px] text-[10px]" : "h-[18px] w-[18px] text-[11px]";
  const state = on ? "border-primary bg-primary text-primary-content" : "border-base-300 hover:border-base-content";
  return (
    <button
      type="button"
      aria-pressed={on}
      aria-label={title}
      title={title}
      onClick={onFlip}
      className={`cond shrink-0 rounded-sm border leading-none ${size} ${state}`}
    >
      {letter}
    </button>
  );
}
