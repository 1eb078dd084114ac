import { X } from "lucide-react";
import { useStore } from "zustand";
import { formulaOf } from "../../api/param";
import type { Formula, FormulaName, FormulaState } from "../../api/types";
import { useNumberAt } from "../../shared/number";
import { paramAt } from "../../shared/paramAt";
import { commit } from "../../stores/editing";
import { openShot } from "../../stores/openShot";
import { transport } from "../../stores/transport";
import { type FormulaPlace, view } from "../../stores/view";
import { ConnectBar } from "./ConnectBar";
import { FormulaCurve } from "./FormulaCurve";
import { FormulaInput } from "./FormulaInput";
import { useWriting } from "./useWriting";

const close = () => view.setState({ formula: null });

/** At the foot of the board: the formula of the number that was asked for. It goes when that number has none any more. */
export function FormulaStrip() {
  const place = useStore(view, (state) => state.formula);
  const state = useStore(openShot, (each) => each.state);
  const param = place && state ? paramAt(state.document, place.at) : null;
  const formula = param && formulaOf(param);
  if (!place || !state || !formula) return null;
  return <Strip key={`${state.id}/${place.at}`} shot={state.slug} place={place} formula={formula} />;
}

function Strip({ shot, place, formula }: { shot: string; place: FormulaPlace; formula: Formula }) {
  const { text, write, keep, giveUp, state, names } = useWriting(shot, place.at, formula);
  const value = useNumberAt(place.at, formula) * place.times;
  const fault = state?.fault ? { start: state.start, stop: state.stop } : null;
  const end = () => {
    giveUp();
    close();
    void commit({ type: "end_formula", at: [place.at], frame: transport.getState().frame });
  };
  return (
    <section
      aria-label="Formula"
      className="sticky bottom-0 z-20 flex select-text flex-col gap-1 border-base-300 border-t-2 bg-base-100 px-3 pt-1 pb-1.5"
    >
      <div className="cond flex items-center gap-2 text-xs">
        <b className="truncate">{place.title}</b>
        <span className="num" data-testid="formula-value">
          {value.toFixed(place.digits)} {place.unit}
        </span>
        <span className="ml-auto" />
        <Templates names={names} onTake={write} />
        <button type="button" className="btn btn-ghost btn-xs" title="The number keeps its present value" onClick={end}>
          Convert to value
        </button>
        <button
          type="button"
          className="btn btn-ghost btn-xs btn-square"
          aria-label="Close the formula"
          title="Close and keep the draft (Esc)"
          onClick={close}
        >
          <X size={13} />
        </button>
      </div>
      <FormulaInput
        title={place.title}
        text={text}
        fault={fault}
        names={names}
        onText={write}
        onKeep={keep}
        onClose={close}
      />
      {state?.fault && (
        <p role="alert" className="text-error text-xs">
          {state.fault.replace(/[^?]$/, "$&.")} The previous formula stays active.
        </p>
      )}
      {state && <Reach place={place} state={state} onText={write} />}
      {state?.notices.map((notice) => (
        <p key={notice} className="text-(--graphite) text-xs">
          Note: {notice}.
        </p>
      ))}
      <FormulaCurve place={place} />
      <ConnectBar place={place} />
    </section>
  );
}

/** Texts to begin with; the one that is chosen takes the place of what is there. */
function Templates({ names, onTake }: { names: FormulaName[]; onTake: (text: string) => void }) {
  return (
    <select
      aria-label="Templates"
      title="Writes a formula to begin with"
      className="select select-xs w-24"
      value=""
      onChange={(event) => onTake(event.target.value)}
    >
      <option value="">Templates</option>
      {names
        .filter(({ template }) => template)
        .map(({ name, insert, told }) => (
          <option key={name} value={insert} title={told}>
            {name}
          </option>
        ))}
    </select>
  );
}

type ReachProps = { place: FormulaPlace; state: FormulaState; onText: (text: string) => void };

/** Values of a formula beyond the limits of its number, in the unit of the field. */
function Reach({ place: { times, digits, unit }, state: { gives, clamped, hundredth }, onText }: ReachProps) {
  const limits = (clamped ?? []).filter((limit) => limit !== null);
  if (!gives || limits.length === 0) return null;
  const format = (value: number) => `${(value * times).toFixed(digits)} ${unit}`.trim();
  const [least, most] = gives.map(format);
  return (
    <p className="flex flex-wrap items-baseline gap-2 text-error text-xs" data-testid="formula-reach">
      {least === most ? least : `${least} to ${most}`}, clamped to {limits.map(format).join(" and ")}
      {hundredth && (
        <button
          type="button"
          className="btn btn-xs"
          title="Divides the formula by 100: 1 is 100 %"
          onClick={() => onText(hundredth)}
        >
          ÷ 100
        </button>
      )}
    </p>
  );
}
