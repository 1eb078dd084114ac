import { usePainting } from "./usePainting";

type LetterSwitchProps = {
  /** Address of what it switches. */
  at: string;
  letter: string;
  title: string;
  on: boolean;
  low?: boolean;
  onFlip: () => void;
};

/** A switch of one letter in the head of a row: M for mute, S for solo. Its target is larger than what is seen of it. */
export function LetterSwitch({ at, letter, title, on, low, onFlip }: LetterSwitchProps) {
  const { shown, bind } = usePainting(at, on, onFlip);
  const size = low ? "h-[16px] w-[16px] text-[10px]" : "h-[18px] w-[18px] text-[11px]";
  const state = shown
    ? "border-primary bg-primary text-primary-content"
    : "border-base-300 group-hover:border-base-content";
  return (
    <button
      type="button"
      aria-pressed={shown}
      aria-label={title}
      title={`${title}; drag across others to switch them too`}
      className="group grid h-6 w-6 shrink-0 touch-none place-items-center"
      {...bind}
    >
      <span className={`cond grid place-items-center rounded-sm border leading-none ${size} ${state}`}>{letter}</span>
    </button>
  );
}
