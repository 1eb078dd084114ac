import { useStore } from "zustand";
import { useShallow } from "zustand/react/shallow";
import { shown, useFlow } from "../../shared/useFlow";
import { useTotal } from "../../shared/useTotal";
import { openShot } from "../../stores/openShot";
import { stillFrame } from "../../stores/stillFrame";
import { view } from "../../stores/view";
import { useFocal } from "./useFocal";

/** The lens of the view, and the present effect of dragging in it. */
export function FinderTitle({ pane }: { pane: HTMLElement | null }) {
  const focal = useFocal(pane);
  const blurred = useStore(stillFrame, (each) => each.on);
  const { bypass, flying, picking, zoom } = useStore(
    view,
    useShallow(({ bypass, flying, picking, loupe }) => ({ bypass, flying, picking, zoom: loupe.zoom })),
  );
  return (
    <span className="cond absolute top-2 left-2 rounded-sm bg-base-100/80 px-2 py-0.5 text-xs">
      Viewfinder · <span ref={focal} className="num" />
      {zoom > 1 && <b className="ml-2 text-info">×{zoom.toFixed(1)} (0 resets)</b>}
      {flying && <b className="ml-2 text-info">Fly: drag to look, Shift-drag to shift, wheel to dolly</b>}
      {picking && (
        <b className="ml-2 text-info">click the point {picking === "cue" ? "where the cue is" : "to look at"}</b>
      )}
      {blurred && <b className="ml-2 text-info">motion blur (Shift S)</b>}
      {bypass && <b className="ml-2 text-warning">bare move</b>}
    </span>
  );
}

/** Goes down a line as a whole. */
const unbroken = (text: string) => text.replaceAll(" ", "\u00a0");

/** Typical and peak motion of the shot, or of the loop range; blur and distance of the subject as frames go by. */
export function FinderReadings() {
  const size = useTotal();
  const subject = useStore(openShot, ({ state }) => Boolean(state?.document.subject));
  const flow = useFlow(({ streakPx, distanceM }) =>
    [`blur ${shown(streakPx, 1)} px`, subject && `subject ${shown(distanceM, 1)} m`]
      .filter((each) => typeof each === "string")
      .map(unbroken)
      .join(" · "),
  );
  return (
    <span
      title={size ? `${size.told}; blur with a 180° shutter` : undefined}
      // Limited to the width next to the scribble.
      className={`num absolute bottom-2 left-2 max-w-[calc(100%-8.25rem)] rounded-sm bg-base-100/80 px-2 py-0.5 text-[11px] ${size ? "" : "invisible"}`}
    >
      typical {size?.typical} px · peak {size?.peak} px · <span ref={flow} data-testid="finder-flow" />
    </span>
  );
}
