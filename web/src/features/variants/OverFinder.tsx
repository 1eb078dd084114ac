import { useEffect, useRef } from "react";
import { useStore } from "zustand";
import { fitted } from "../../shared/fit";
import { useDragging } from "../../shared/useDragging";
import { useSize } from "../../shared/useSize";
import { motionOf, sides } from "../../stores/sides";
import { elementOf, FINDER, hang, stage } from "../../stores/stage";

const STEP = 0.02;
const bounded = (share: number) => Math.min(Math.max(share, 0), 1);

/** Over the large Viewfinder: another picture right of the line of a wipe. */
export function OverFinder() {
  const first = useStore(sides, ({ shown, how }) => (how === "wipe" ? shown[0] : undefined));
  return first ? <Wipe key={first.key} of={first.key} title={first.title} /> : null;
}

const LINE = () => sides.getState().line;

/** Hangs another motion over the large Viewfinder, right of the line. */
function useOver(of: string): void {
  const finder = useStore(stage, elementOf(FINDER));
  useEffect(() => {
    if (!finder) return;
    return hang({
      id: "over",
      element: finder,
      camera: "lens",
      motion: () => motionOf(of),
      part: () => [LINE(), 1],
    });
  }, [finder, of]);
}

function Wipe({ of, title }: { of: string; title: string }) {
  const [ref, size] = useSize<HTMLDivElement>();
  const aspect = useStore(stage, (each) => each.aspect);
  const line = useStore(sides, (each) => each.line);
  const rect = fitted(size.width, size.height, aspect);
  useOver(of);
  const move = (share: number) => sides.setState({ line: bounded(share) });
  const from = useRef(line);
  const bind = useDragging<void>({
    press: () => {
      from.current = sides.getState().line;
      return true;
    },
    move: ({ dx }) => move(from.current + dx / Math.max(rect.width, 1)),
    cancel: () => move(from.current),
  });
  return (
    <div ref={ref} className="pointer-events-none absolute inset-0">
      <div
        className="absolute"
        style={{ left: rect.x, top: rect.y, width: rect.width, height: rect.height }}
        data-testid="wipe"
      >
        <span className="cond absolute top-9 right-2 max-w-[40%] truncate rounded-sm bg-base-100/80 px-1.5 py-0.5 text-xs">
          {title}
        </span>
        <div
          role="slider"
          tabIndex={0}
          aria-label="Line of the wipe"
          aria-valuemin={0}
          aria-valuemax={100}
          aria-valuenow={Math.round(line * 100)}
          title="Drag the wipe; this shot is on the left"
          className="pointer-events-auto absolute inset-y-0 w-6 -translate-x-1/2 cursor-ew-resize touch-none"
          style={{ left: line * rect.width }}
          onKeyDown={(event) => {
            const by = { ArrowLeft: -STEP, ArrowRight: STEP }[event.key];
            if (by === undefined) return;
            event.preventDefault();
            event.stopPropagation();
            move(line + by);
          }}
          {...bind()}
        >
          <span className="mx-auto block h-full w-px bg-white/90" />
        </div>
      </div>
    </div>
  );
}
