import { useRef, useState } from "react";
import { arithmetic } from "./arithmetic";

export type NumberFieldProps = {
  label: string;
  value: number;
  unit: string;
  /** Change for each pixel dragged. */
  speed: number;
  least?: number;
  most?: number;
  digits?: number;
  /** Dragging multiplies instead of adding, for sizes and rates. */
  scales?: boolean;
  disabled?: boolean;
  className?: string;
  onPreview?: (value: number) => void;
  /** The number is kept as it was left until this is done. */
  onCommit: (value: number) => unknown;
  onCancel?: () => void;
};

const FINE = 0.1;
const DRAG_STARTS_PX = 3;

/** A number with its unit: drag sideways (Shift is fine), arrow keys, double-click or Enter to type; arithmetic is understood. */
export function NumberField(props: NumberFieldProps) {
  const { label, value, unit, speed, least = -Infinity, most = Infinity, digits = 2, disabled } = props;
  const [live, setLive] = useState<number | null>(null);
  const [text, setText] = useState<string | null>(null);
  const [wrong, setWrong] = useState(false);
  const drag = useRef<{ x: number; value: number; moved: boolean } | null>(null);
  const settling = useRef(0);
  const clamp = (next: number) => Math.min(most, Math.max(least, next));
  const shown = live ?? value;

  const settle = (next: number) => {
    const mine = ++settling.current;
    setLive(next);
    void Promise.resolve(props.onCommit(next)).finally(() => {
      if (settling.current === mine && !drag.current) setLive(null);
    });
  };

  const keyStep = (sign: number, fine: boolean) => {
    const size = props.scales ? Math.max(Math.abs(value) * 0.05, speed) : speed * 5;
    settle(clamp(shown + sign * size * (fine ? FINE : 1)));
  };

  const finishTyping = () => {
    if (text === null) return;
    const next = arithmetic(text, value);
    if (next === null) {
      setWrong(true);
      return;
    }
    setText(null);
    setWrong(false);
    if (clamp(next) !== value) settle(clamp(next));
  };

  if (text !== null) {
    return (
      <input
        aria-label={label}
        aria-invalid={wrong}
        title={wrong ? "A number, or a sum such as 0.4*2" : undefined}
        className={`num w-full min-w-0 rounded-sm border px-1 text-right text-xs ${wrong ? "border-error text-error" : "border-primary"} bg-base-100 ${props.className ?? ""}`}
        value={text}
        ref={(element) => {
          if (element && document.activeElement !== element) element.select();
        }}
        onChange={(event) => {
          setText(event.target.value);
          setWrong(false);
        }}
        onBlur={finishTyping}
        onKeyDown={(event) => {
          event.stopPropagation();
          if (event.key === "Enter") finishTyping();
          if (event.key === "Escape") {
            setText(null);
            setWrong(false);
          }
        }}
      />
    );
  }

  return (
    <button
      type="button"
      role="spinbutton"
      aria-label={label}
      aria-valuenow={Number(shown.toFixed(6))}
      aria-valuetext={`${shown.toFixed(digits)} ${unit}`}
      disabled={disabled}
      title={`${label}: drag sideways, Shift for fine; double-click to type`}
      className={`num cursor-ew-resize touch-none select-none rounded-sm px-1 text-right text-xs whitespace-nowrap hover:bg-base-300/60 disabled:cursor-default disabled:opacity-50 ${live !== null ? "bg-secondary text-secondary-content" : ""} ${props.className ?? ""}`}
      onPointerDown={(event) => {
        if (event.button !== 0) return;
        event.currentTarget.setPointerCapture(event.pointerId);
        drag.current = { x: event.clientX, value: shown, moved: false };
      }}
      onPointerMove={(event) => {
        const start = drag.current;
        if (!start) return;
        if (!start.moved && Math.abs(event.clientX - start.x) < DRAG_STARTS_PX) return;
        start.moved = true;
        const pixels = (event.clientX - start.x) * (event.shiftKey ? FINE : 1);
        const base = start.value;
        const next = props.scales && base > 0 ? base * Math.exp(pixels * 0.01) : base + pixels * speed;
        setLive(clamp(next));
        props.onPreview?.(clamp(next));
      }}
      onPointerUp={() => {
        const moved = drag.current?.moved;
        drag.current = null;
        if (moved && live !== null) settle(live);
        else setLive(null);
      }}
      onPointerCancel={() => {
        drag.current = null;
        setLive(null);
        props.onCancel?.();
      }}
      onDoubleClick={() => setText(String(Number(value.toFixed(6))))}
      onKeyDown={(event) => {
        if (event.key === "Enter") setText(String(Number(value.toFixed(6))));
        else if (event.key === "ArrowUp") keyStep(1, event.shiftKey);
        else if (event.key === "ArrowDown") keyStep(-1, event.shiftKey);
        else if (event.key === "Escape" && drag.current) {
          drag.current = null;
          setLive(null);
          props.onCancel?.();
        } else return;
        event.preventDefault();
        event.stopPropagation();
      }}
    >
      {shown.toFixed(digits)} <span className="opacity-80">{unit}</span>
    </button>
  );
}
