import { useEffect, useRef, useState } from "react";
import { dialogs } from "../../stores/dialogs";

/** Pending texts, and checks of their results; each resolves to its success. */
const under = new Set<Promise<boolean>>();

/** Something that was typed is being read, or something else is found out from it. */
export function beingRead(reading: Promise<boolean>): void {
  under.add(reading);
  void reading.finally(() => under.delete(reading));
}

/** A box with what was read already and is no number; behind a dialog it says nothing of what is done there. */
function standingWrong(): HTMLElement | null {
  const room = dialogs.getState().open.at(-1) ?? document;
  return room.querySelector<HTMLElement>("input.num[aria-invalid=true]");
}

/** Runs an action after pending texts: immediately, or when they are parsed. After an invalid text nothing is run; the error is shown next to it. */
export function useAfterTyped(act: () => void): () => void {
  const latest = useRef(act);
  latest.current = act;
  const [due, setDue] = useState(0);
  // Drawn once more, it knows what has been read.
  useEffect(() => {
    if (due) latest.current();
  }, [due]);
  return () => {
    const wrong = standingWrong();
    if (wrong) wrong.focus();
    else if (!under.size) act();
    else void allWell().then((well) => well && setDue((times) => times + 1));
  };
}

async function allWell(): Promise<boolean> {
  let well = true;
  while (under.size) {
    const read = await Promise.all(under);
    well &&= read.every(Boolean);
    // The field handles it first, and may have more to check.
    await new Promise((done) => setTimeout(done));
  }
  return well;
}
