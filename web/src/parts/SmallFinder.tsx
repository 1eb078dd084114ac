import { type ReactNode, useEffect } from "react";
import { useStore } from "zustand";
import { fitted } from "../shared/fit";
import { useSize } from "../shared/useSize";
import type { Motion } from "../stores/motion";
import { hang, stage } from "../stores/stage";

type SmallFinderProps = {
  id: string;
  /** The pose of its lens; null while it is loading. */
  motion: () => Motion | null;
  ready: boolean;
  /** Its id on the page. */
  mark: Record<`data-${string}`, string>;
  children: ReactNode;
  /** Caption at the bottom of the picture. */
  foot?: ReactNode;
};

/** A small Viewfinder, in step with the large one, with a caption at the top. */
export function SmallFinder({ id, motion, ready, mark, children, foot }: SmallFinderProps) {
  const [ref, size] = useSize<HTMLDivElement>();
  const aspect = useStore(stage, (each) => each.aspect);
  const rect = fitted(size.width, size.height, aspect);
  useEffect(() => {
    if (ref.current) return hang({ id, element: ref.current, camera: "lens", motion });
  }, [ref, id, motion]);
  return (
    <div ref={ref} className="relative min-h-0 overflow-hidden" data-ready={ready ? "yes" : "no"} {...mark}>
      <div
        className="pointer-events-none absolute"
        style={{ left: rect.x, top: rect.y, width: rect.width, height: rect.height }}
      >
        <div className="pointer-events-auto absolute inset-x-1 top-1 flex items-center gap-1">{children}</div>
        {foot && <div className="pointer-events-auto absolute right-1 bottom-1 flex gap-1">{foot}</div>}
      </div>
    </div>
  );
}
