import { useTrialDrag } from "../../shared/useTrialDrag";
import { idsAlike } from "../../stores/selection";
import { transport } from "../../stores/transport";
import { toWeight, toY } from "./hullGeometry";

const GRIP_PX = 8;

/** The edge of the hull of a weight that has no keys: dragged up and down, it sets the weight. */
export function HullLevel(props: { id: string; name: string; weight: number; width: number; height: number }) {
  const { id, name, weight, width, height } = props;
  const { bind, live } = useTrialDrag<void, number>({
    live: ({ y, element }) => toWeight(y - (element.parentElement?.getBoundingClientRect().top ?? 0), height),
    command: (value) => ({
      type: "set_numbers",
      frame: transport.getState().frame,
      values: idsAlike(id).map((each) => ({ at: `layer:${each}.weight`, value })),
      key: false,
    }),
  });
  const shown = live?.value ?? weight;
  return (
    <button
      type="button"
      data-level={id}
      tabIndex={-1}
      aria-label={`Weight of ${name}: drag up or down`}
      title={`Weight ${Math.round(shown * 100)} %: drag up or down; double-click on the lane sets a key`}
      className="absolute left-0 z-[4] cursor-ns-resize touch-none hover:bg-primary/20"
      style={{ top: Math.max(0, toY(shown, height) - GRIP_PX / 2), width, height: GRIP_PX }}
      {...bind()}
    />
  );
}
