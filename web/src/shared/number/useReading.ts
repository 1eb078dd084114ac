import { useRef, useState } from "react";
import { arithmetic, type TypedInto } from "./arithmetic";
import { beingRead } from "./useAfterTyped";

/** Reading what was typed into a number, one text at a time. `fault` is its error; a canceled text has no answer. */
export function useReading(hint: string, into: TypedInto) {
  const [fault, setFault] = useState("");
  const turn = useRef(0);
  const reading = useRef(false);
  /** The number, or null: it is wrong, was given up, or is being read already. */
  const read = async (text: string, before: number): Promise<number | null> => {
    if (reading.current) return null;
    const mine = turn.current;
    reading.current = true;
    const result = arithmetic(text, before, into);
    beingRead(result.then((found) => "value" in found));
    const found = await result;
    if (mine !== turn.current) return null;
    reading.current = false;
    if ("value" in found) return found.value;
    setFault(`${found.fault}. ${hint}`);
    return null;
  };
  /** Something else is typed, or nothing any more. */
  const giveUp = () => {
    turn.current += 1;
    reading.current = false;
    setFault("");
  };
  return { fault, read, giveUp };
}
