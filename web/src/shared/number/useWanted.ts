import { useEffect } from "react";
import { want } from "../../stores/numbers";
import { refresh } from "../../stores/preview";

let asking = false;

/** Asks once for all that several views begin to want at the same time. */
function askSoon(): void {
  if (asking) return;
  asking = true;
  queueMicrotask(() => {
    asking = false;
    refresh();
  });
}

/** Has the samples of some numbers sent along with the motion, as arrays `curve:ADDRESS`. */
export function useWanted(addresses: string[]): void {
  const text = addresses.join(" ");
  useEffect(() => {
    const wants = text ? text.split(" ").map(want) : [];
    if (wants.some(({ isNew }) => isNew)) askSoon();
    return () => {
      for (const { drop } of wants) drop();
    };
  }, [text]);
}
