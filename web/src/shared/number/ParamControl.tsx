import { formulaOf, varies } from "../../api/param";
import type { Command, FieldLook, Param } from "../../api/types";
import { commit } from "../../stores/editing";
import { cancelPreview, preview } from "../../stores/preview";
import { placesAlike } from "../../stores/selection";
import { transport } from "../../stores/transport";
import { view } from "../../stores/view";
import { usePausedFrame } from "../usePausedFrame";
import { FormulaNumber } from "./FormulaNumber";
import { KeyDot } from "./KeyDot";
import { makeDial } from "./makeDial";
import { NumberField } from "./NumberField";
import { Stacked } from "./Stacked";
import { useNumberAt } from "./useNumberAt";
import { useRecording } from "./useRecording";

export type ParamControlProps = {
  at: string;
  param: Param;
  look: FieldLook;
  /** Stacked under its title, or in a row with a separate title. */
  stacked?: boolean;
  /** Label of the number where the title alone is ambiguous. */
  label?: string;
  keyTitle?: string;
  /** Value that follows what is tried on; as the core samples it when left out. */
  value?: number;
  /** Targets of keys; by default the same number of all selected layers. */
  places?: string[];
  /** The command that sets it; one that sets it in all places when left out. */
  command?: (value: number) => Command;
  /** Every change sets a key. */
  keys?: boolean;
  /** Follows what is tried on, even when it is the same at all frames. */
  live?: boolean;
  disabled?: boolean;
  className?: string;
};

/** Behavior of a number control, in any state. */
function useParam(props: ParamControlProps) {
  const { at, param, look, places = placesAlike(at), label = look.title } = props;
  const frame = usePausedFrame();
  const sampled = useNumberAt(at, param, props.live);
  const set = (shown: number): Command =>
    props.command?.(shown / look.times) ?? {
      type: "set_numbers",
      frame: transport.getState().frame,
      values: places.map((place) => ({ at: place, value: shown / look.times })),
      key: props.keys ?? false,
    };
  const place = { at, title: label, unit: look.unit, times: look.times, digits: look.digits };
  const { hold, release } = useRecording<number>(props.keys ?? false, (samples) => ({
    type: "record_keys",
    at,
    samples,
  }));
  const change = {
    onPreview: (shown: number) => preview(hold(shown / look.times) ?? set(shown)),
    onCommit: (shown: number) => commit(release() ?? set(shown)),
    onCancel: () => {
      release();
      cancelPreview();
    },
  };
  const write = (text: string) => {
    view.setState({ formula: place });
    void commit({ type: "set_formula", formulas: places.map((each) => ({ at: each, text })) });
  };
  return { places, label, frame, value: (props.value ?? sampled) * look.times, change, write, place };
}

/** THE control of a number of the shot, whatever its state: the dot sets and deletes keys; a number that has some gets one where it is changed; = makes a formula. */
export function ParamControl(props: ParamControlProps) {
  const { at, param, look, stacked, disabled } = props;
  const { places, label, frame, value, change, write, place } = useParam(props);
  const className = props.className ?? (stacked ? "w-full text-left!" : "w-full");
  const formula = formulaOf(param);
  const dot = formula ? null : (
    <KeyDot
      places={places}
      at={at}
      param={param}
      frame={frame}
      title={props.keyTitle ?? look.title}
      onDial={() => makeDial(place)}
      disabled={disabled}
    />
  );
  const number = formula ? (
    <FormulaNumber formula={formula} place={place} value={value} className={className} />
  ) : (
    <NumberField
      {...look}
      at={at}
      label={label}
      value={value}
      disabled={disabled}
      className={className}
      {...change}
      onFormula={write}
      always={props.keys || varies(param)}
      onTouch={() => view.setState({ number: place })}
    />
  );
  return stacked ? (
    <Stacked title={look.title} dot={dot}>
      {number}
    </Stacked>
  ) : (
    <>
      {dot}
      {number}
    </>
  );
}
