import { useState } from "react";
import { commit, type Then } from "../../stores/editing";
import { transport } from "../../stores/transport";

/** Takes a dial away. Formulas that read it are asked about: they get its value at the present frame. */
export function RemoveDial({ dial, then }: { dial: string; then: Then }) {
  const [read, setRead] = useState(false);
  const remove = (leave: boolean) => {
    const failed = (error: unknown) => {
      setRead(true);
      then.failed?.(error);
    };
    const { frame } = transport.getState();
    void commit({ type: "remove_dial", dial, leave, frame }, { kept: then.kept, failed });
  };
  return (
    <button type="button" className="btn btn-sm btn-neutral mr-auto" onClick={() => remove(read)}>
      {read ? "Remove and bake its value" : "Remove dial"}
    </button>
  );
}
