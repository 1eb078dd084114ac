import { type RefObject, useEffect, useState } from "react";

/** Whether an element is in view; others need not be drawn. */
export function useInSight(ref: RefObject<Element | null>): boolean {
  const [inSight, setInSight] = useState(false);
  useEffect(() => {
    const element = ref.current;
    if (!element) return;
    const watch = new IntersectionObserver((entries) => setInSight(entries.at(-1)?.isIntersecting ?? false));
    watch.observe(element);
    return () => watch.disconnect();
  }, [ref]);
  return inSight;
}
