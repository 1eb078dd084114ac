import { type ComponentProps, createContext, type ReactNode, useContext } from "react";

export const HEAD_PX = 168;

/** Widths of the heads and of the lanes, in pixels. */
export const LaneSize = createContext({ headPx: HEAD_PX, width: 0 });
export const useLaneSize = () => useContext(LaneSize);

type LaneRowProps = ComponentProps<"div"> & {
  /** In pixels; or as high as what is in it. */
  height: number | "auto";
  head: ReactNode;
  headClass?: string;
  /** Content on the time axis; as wide as the lanes. */
  children: ReactNode;
};

/** A row under the ruler: a head, and next to it a lane on the time axis. */
export function LaneRow({ height, head, headClass = "", className = "", children, ...rest }: LaneRowProps) {
  const { headPx } = useLaneSize();
  return (
    <div className={`flex shrink-0 ${className}`} style={{ height }} {...rest}>
      <div className={`shrink-0 border-base-300 border-r ${headClass}`} style={{ width: headPx }}>
        {head}
      </div>
      {children}
    </div>
  );
}
