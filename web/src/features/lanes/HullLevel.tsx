import { useTrialDrag } from "../../shared/useTrialDrag";
import { transport } from "../../stores/transport";
import { DragNote } from "./DragNote";
import { toWeight, toY } from "./hullGeometry";

const GRIP_PX = 8;
const NOTE_PX = 9;

type HullLevelProps = {
  /** Addresses of the numbers that are set. */
  at: () => string[];
  /** Name of the level: weight of a layer, amount of a clip. */
  title: string;
  weight: number;
  left?: number;
  width: number;
  height: number;
};

/** The edge of the hull of a weight or amount that has no keys: dragged up and down, it sets it. */
export function HullLevel({ at, title, weight, left = 0, width, height }: HullLevelProps) {
  const { bind, live } = useTrialDrag<void, number>({
    live: ({ y, element }) => toWeight(y - (element.parentElement?.getBoundingClientRect().top ?? 0), height),
    command: (value) => ({
      type: "set_numbers",
      frame: transport.getState().frame,
      values: at().map((each) => ({ at: each, value })),
      key: false,
    }),
  });
  const shown = live?.value ?? weight;
  const top = Math.max(0, toY(shown, height) - GRIP_PX / 2);
  return (
    <>
      {live && (
        <DragNote
          left={left + NOTE_PX}
          top={Math.max(0, height / 2 - NOTE_PX)}
        >{`${Math.round(shown * 100)} %`}</DragNote>
      )}
      <button
        type="button"
        data-level={title}
        tabIndex={-1}
        aria-label={`${title}: drag up or down`}
        title={`${title}, ${Math.round(shown * 100)} %: drag up or down; double-click to add a key`}
        className="absolute z-[4] cursor-ns-resize touch-none hover:bg-primary/20"
        style={{ top, width, height: GRIP_PX, left }}
        {...bind()}
      />
    </>
  );
}
