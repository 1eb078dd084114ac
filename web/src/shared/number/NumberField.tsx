import { useEffect, useRef, useState } from "react";
import { useDragging } from "../useDragging";
import { figures } from "./figures";
import { NumberInput } from "./NumberInput";

export type NumberFieldProps = {
  label: string;
  value: number;
  unit: string;
  /** Its address in the shot, for what is typed in pixels. */
  at?: string;
  /** Change for each pixel dragged. */
  step: number;
  least?: number;
  most?: number;
  digits?: number;
  /** Dragging multiplies instead of adding, for sizes and rates. */
  scales?: boolean;
  disabled?: boolean;
  className?: string;
  onPreview?: (value: number) => void;
  /** The shown number stays until this is done. */
  onCommit: (value: number) => unknown;
  onCancel?: () => void;
  /** A typed value is set even if it is the same: it may set a key. */
  always?: boolean;
  /** It was gone to. */
  onTouch?: () => void;
  /** A text typed behind a sign = makes a formula. */
  onFormula?: (text: string) => void;
};

const FINE = 0.1;
/** A pixel multiplies by e to this. */
const SCALE_A_PX = 0.01;
const KEY_SHARE = 0.05;
const KEY_STEPS = 5;
/** Characters that start a typed number. */
const BEGINS = /^[\d.,+\-=]$/;

/** The displayed number and its changes: dragged, stepped by keys; it shows the new value until the change is saved. */
function useChanging(props: NumberFieldProps) {
  const { value, step, least = -Infinity, most = Infinity, scales } = props;
  const [live, setLive] = useState<number | null>(null);
  const turn = useRef(0);
  const start = useRef(0);
  const isHeld = useRef(false);
  const clamp = (next: number) => Math.min(most, Math.max(least, next));
  const settle = (next: number) => {
    const mine = ++turn.current;
    isHeld.current = false;
    setLive(next);
    void Promise.resolve(props.onCommit(next)).finally(() => {
      if (turn.current === mine && !isHeld.current) setLive(null);
    });
  };
  const at = (dx: number, fine: boolean) => {
    const pixels = dx * (fine ? FINE : 1);
    const multiplies = scales && start.current > 0;
    return clamp(multiplies ? start.current * Math.exp(pixels * SCALE_A_PX) : start.current + pixels * step);
  };
  const bind = useDragging<void>(
    {
      press: () => {
        start.current = live ?? value;
        isHeld.current = true;
        return true;
      },
      move: ({ dx, shiftKey }) => {
        setLive(at(dx, shiftKey));
        props.onPreview?.(at(dx, shiftKey));
      },
      drop: ({ dx, shiftKey }) => settle(at(dx, shiftKey)),
      tap: () => {
        isHeld.current = false;
      },
      cancel: () => {
        isHeld.current = false;
        setLive(null);
        props.onCancel?.();
      },
    },
    !props.disabled,
  );
  const byKey = (sign: number, fine: boolean) => {
    const size = scales ? Math.max(Math.abs(value) * KEY_SHARE, step) : step * KEY_STEPS;
    settle(clamp((live ?? value) + sign * size * (fine ? FINE : 1)));
  };
  const typed = (next: number) => (props.always || clamp(next) !== value) && settle(clamp(next));
  return { live, bind, byKey, typed };
}

/** A number with its unit: drag sideways (Shift is fine, Escape gives up), arrow keys, double-click or Enter to type; arithmetic is understood. */
export function NumberField(props: NumberFieldProps) {
  const { label, value, unit, digits = 2, disabled, className = "" } = props;
  /** The typed text: the first key pressed, or the present number without one. */
  const [typing, setTyping] = useState<{ first?: string } | null>(null);
  const button = useRef<HTMLButtonElement>(null);
  const byKeys = useRef(false);
  // After a confirmation by key, the focus stays.
  useEffect(() => {
    if (!typing && byKeys.current) button.current?.focus();
    byKeys.current = false;
  }, [typing]);
  const { live, bind, byKey, typed } = useChanging(props);
  const shown = live ?? value;
  if (typing)
    return (
      <NumberInput
        label={label}
        value={value}
        into={{ unit, at: props.at }}
        className={className}
        onValue={typed}
        first={typing.first}
        onFormula={props.onFormula}
        onEnd={(byKey) => {
          byKeys.current = byKey;
          setTyping(null);
        }}
      />
    );
  return (
    <button
      type="button"
      role="spinbutton"
      aria-label={label}
      aria-valuemin={props.least}
      aria-valuemax={props.most}
      aria-valuenow={Number(shown.toFixed(6))}
      aria-valuetext={`${figures(shown, digits)} ${unit}`}
      disabled={disabled}
      title={`${label}: drag sideways, Shift for fine; double-click, or type a digit, to type`}
      className={`num cursor-ew-resize touch-none select-none whitespace-nowrap rounded-sm px-1 text-right text-xs hover:bg-base-300/60 disabled:cursor-default disabled:opacity-50 ${live !== null ? "bg-secondary text-secondary-content" : ""} ${className}`}
      {...bind()}
      ref={button}
      onFocus={props.onTouch}
      onDoubleClick={() => setTyping({})}
      onKeyDown={(event) => {
        if (event.ctrlKey || event.metaKey || event.altKey) return;
        if (event.key === "Enter") setTyping({});
        else if (event.key === "Escape") event.currentTarget.blur();
        else if (BEGINS.test(event.key)) setTyping({ first: event.key });
        else if (event.key === "ArrowUp") byKey(1, event.shiftKey);
        else if (event.key === "ArrowDown") byKey(-1, event.shiftKey);
        else return;
        event.preventDefault();
        event.stopPropagation();
      }}
    >
      {figures(shown, digits)} <span className="opacity-80">{unit}</span>
    </button>
  );
}
