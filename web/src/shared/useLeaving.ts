import { useEffect, useRef } from "react";

/** Does something, as it last was, when a part of the page goes away. */
export function useLeaving(leave: () => void): void {
  const last = useRef(leave);
  last.current = leave;
  useEffect(() => () => last.current(), []);
}
