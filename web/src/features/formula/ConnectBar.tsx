import { useRef, useState } from "react";
import { useStore } from "zustand";
import { NumberField, useAfterTyped } from "../../shared/number";
import { commit } from "../../stores/editing";
import { openShot } from "../../stores/openShot";
import { placesAlike } from "../../stores/selection";
import { type FormulaPlace, view } from "../../stores/view";

const NONE = "choose …";

/** Lets a dial drive the number, from one value at its least to another at its most. */
export function ConnectBar({ place }: { place: FormulaPlace }) {
  const dials = useStore(openShot, (each) => each.state?.document.dials ?? []);
  const [low, setLow] = useState(0);
  const [high, setHigh] = useState(place.times === 1 ? 1 : place.times);
  const chosen = useRef("");
  const connect = useAfterTyped(
    () =>
      void commit({
        type: "connect_dial",
        dial: chosen.current,
        at: placesAlike(place.at),
        low: low / place.times,
        high: high / place.times,
      }),
  );
  const end = (label: string, value: number, onCommit: (value: number) => void) => (
    <NumberField
      label={label}
      value={value}
      unit={place.unit}
      step={0.05}
      digits={place.digits}
      className="border border-base-300"
      onCommit={onCommit}
    />
  );
  return (
    <div className="cond flex flex-wrap items-center gap-1 text-(--graphite) text-xs">
      from {end("Value at the dial's minimum", low, setLow)} to {end("Value at the dial's maximum", high, setHigh)} by
      dial
      {dials.length > 0 ? (
        <select
          aria-label="Connect to a dial"
          className="border-base-300 border-b bg-base-100 text-base-content"
          value={NONE}
          onChange={(event) => {
            chosen.current = event.target.value;
            connect();
          }}
        >
          <option disabled>{NONE}</option>
          {dials.map(({ name }) => (
            <option key={name}>{name}</option>
          ))}
        </select>
      ) : null}
      <button
        type="button"
        className="btn btn-ghost btn-xs"
        onClick={() => view.setState({ dialog: "dial", dial: null })}
      >
        New dial …
      </button>
    </div>
  );
}
