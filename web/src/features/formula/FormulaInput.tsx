import { useEffect, useId, useRef } from "react";
import type { FormulaName } from "../../api/types";
import { NameList } from "./NameList";
import { useCompletion } from "./useCompletion";

type FormulaInputProps = {
  title: string;
  text: string;
  fault: { start: number; stop: number } | null;
  names: FormulaName[];
  onText: (text: string) => void;
  onKeep: () => void;
  onClose: () => void;
};

/** The text of a formula, with underlined errors and name completion. */
export function FormulaInput({ title, text, fault, names, onText, onKeep, onClose }: FormulaInputProps) {
  const input = useRef<HTMLInputElement>(null);
  const marks = useRef<HTMLDivElement>(null);
  const list = useId();
  const completion = useCompletion(input, text, names, onText);
  // The input is focused when the strip opens.
  useEffect(() => input.current?.focus(), []);
  const onKeyDown = (event: React.KeyboardEvent) => {
    event.stopPropagation();
    if (completion.onKey(event.key)) event.preventDefault();
    else if (event.key === "Enter") onKeep();
    else if (event.key === "Escape") onClose();
  };
  return (
    <div className="relative">
      <span className="num absolute top-1 left-2 text-sm">=</span>
      <Underline text={text} fault={fault} marks={marks} />
      <input
        ref={input}
        aria-label={`Formula of ${title}`}
        aria-invalid={fault !== null}
        role="combobox"
        aria-autocomplete="list"
        aria-expanded={completion.list.length > 0}
        aria-controls={list}
        aria-activedescendant={completion.list.length ? `${list}-${completion.chosen}` : undefined}
        spellCheck={false}
        autoComplete="off"
        className="num w-full rounded-sm border border-primary bg-transparent py-0.5 pr-2 pl-6 text-sm"
        value={text}
        onChange={(event) => {
          onText(event.target.value);
          completion.begin();
        }}
        onSelect={completion.follow}
        onScroll={(event) => marks.current?.scrollTo({ left: event.currentTarget.scrollLeft })}
        onKeyDown={onKeyDown}
        onBlur={() => {
          completion.end();
          onKeep();
        }}
      />
      <NameList id={list} names={completion.list} chosen={completion.chosen} onTake={completion.take} />
    </div>
  );
}

type UnderlineProps = {
  text: string;
  fault: { start: number; stop: number } | null;
  marks: React.RefObject<HTMLDivElement | null>;
};

/** An invisible copy of the text under the input; errors in it are underlined. */
function Underline({ text, fault, marks }: UnderlineProps) {
  if (!fault) return null;
  const stop = Math.max(fault.stop, fault.start + 1);
  return (
    <div
      ref={marks}
      aria-hidden="true"
      className="num pointer-events-none absolute inset-0 overflow-hidden whitespace-pre border border-transparent py-0.5 pr-2 pl-6 text-sm text-transparent"
    >
      {text.slice(0, fault.start)}
      <span data-fault className="underline decoration-2 decoration-error decoration-wavy underline-offset-4">
        {text.slice(fault.start, stop) || " "}
      </span>
    </div>
  );
}
