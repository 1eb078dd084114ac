import { useState } from "react";
import { useStore } from "zustand";
import { explain } from "../../api/client";
import type { Command, Dial, Shot } from "../../api/types";
import { Complaint } from "../../parts/Complaint";
import { TextField } from "../../parts/TextField";
import { Dialog } from "../../shared/Dialog";
import { typedNumber } from "../../shared/number";
import { commit } from "../../stores/editing";
import { view } from "../../stores/view";
import { RemoveDial } from "./RemoveDial";

const close = () => view.setState({ dialog: null, dial: null });

const FRESH = { name: "", unit: "%", minimum: "0", maximum: "100" };

const textsOf = (dial: Dial | undefined) =>
  dial ? { name: dial.name, unit: dial.unit, minimum: String(dial.minimum), maximum: String(dial.maximum) } : FRESH;

/** Creates or changes a dial: its name, unit and limits; a new name replaces the old one in every formula. */
export function DialDialog({ shot }: { shot: Shot }) {
  const dialName = useStore(view, (state) => state.dial);
  const dial = shot.dials.find(({ name }) => name === dialName);
  const [form, setForm] = useState(() => textsOf(dial));
  const [problem, setProblem] = useState("");
  const setField = (field: keyof typeof FRESH) => (value: string) => setForm((now) => ({ ...now, [field]: value }));
  const then = { kept: close, failed: (error: unknown) => setProblem(explain(error)) };
  const change = async () => {
    setProblem("");
    const number = (title: string, text: string) => typedNumber(title, text, { unit: form.unit.trim() });
    let limits: { unit: string; minimum: number; maximum: number };
    try {
      limits = {
        unit: form.unit,
        minimum: await number("Minimum", form.minimum),
        maximum: await number("Maximum", form.maximum),
      };
    } catch (error) {
      return setProblem(explain(error));
    }
    const command: Command = dial
      ? { type: "set_dial", dial: dial.name, name: form.name.trim(), ...limits }
      : { type: "add_dial", name: form.name.trim(), ...limits };
    void commit(command, then);
  };
  return (
    <Dialog title={dial ? `Dial ${dial.name}` : "New dial"} onClose={close}>
      <form
        className="grid grid-cols-3 gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          void change();
        }}
      >
        <TextField title="Name" label="Name of the dial" wide most={40} value={form.name} onChange={setField("name")} />
        <TextField title="Unit" value={form.unit} onChange={setField("unit")} />
        <TextField title="Minimum" value={form.minimum} onChange={setField("minimum")} />
        <TextField title="Maximum" value={form.maximum} onChange={setField("maximum")} />
        <Complaint text={problem} />
        <div className="col-span-3 flex items-center justify-end gap-3">
          {dial ? (
            <RemoveDial dial={dial.name} then={then} />
          ) : (
            <span className="mr-auto text-xs">Letters, digits and _: the name used in formulas.</span>
          )}
          <button type="submit" className="btn btn-sm btn-primary" disabled={!form.name.trim()}>
            {dial ? "Apply" : "Create"}
          </button>
        </div>
      </form>
    </Dialog>
  );
}
