import { useStore } from "zustand";
import { formulaOf } from "../../api/param";
import type { Command, HoldFraming, Operator, Shot } from "../../api/types";
import { byArrows, keepArrows } from "../../shared/byArrows";
import { useNumberAt } from "../../shared/number";
import { useReached } from "../../shared/useReached";
import { useTrialDrag } from "../../shared/useTrialDrag";
import { commit } from "../../stores/editing";
import { openShot } from "../../stores/openShot";
import { serverTables } from "../../stores/serverTables";
import { transport } from "../../stores/transport";
import { view } from "../../stores/view";

type Framing = { at: string; framing: Operator | HoldFraming; slack: [number, number] | null };
type Place = { across: number; up: number };

/** Source of the framing target: the operator, else the hold on the framing. */
function framingOf(shot: Shot): Framing | null {
  const mount = shot.mounts.find(({ operator }) => operator);
  if (mount?.operator) {
    const { operator } = mount;
    const slack: [number, number] = [operator.pan_slack_percent ?? 0, operator.tilt_slack_percent ?? 0];
    return { at: `mount:${mount.id}.operator`, framing: operator, slack };
  }
  return shot.hold ? { at: "shot.hold", framing: shot.hold, slack: null } : null;
}

/** The framing target, and the slack around it while the operator is on the board. */
export function FramingMark({ width, height }: { width: number; height: number }) {
  const shot = useStore(openShot, (state) => state.state?.document);
  const shown = useStore(view, (state) => state.board === "move" && state.part === "operator");
  const found = shot && framingOf(shot);
  if (!shown || !found) return null;
  return <Mark {...found} width={width} height={height} />;
}

const SIZE_PX = 26;
/** Percent for a press of an arrow key. */
const STEP = 0.5;

const placeLook = () =>
  serverTables().forms.operator.find(({ field }) => field === "across_percent") ?? { least: 0, most: 100 };

/** In the picture or outside of it, as far as a place may lie. */
function within({ across, up }: Place): Place {
  const { least, most } = placeLook();
  const round = (value: number) => Math.min(most, Math.max(least, Math.round(value * 10) / 10));
  return { across: round(across), up: round(up) };
}

/** Whether one of its numbers has a formula. */
const isDriven = ({ across_percent, up_percent }: Operator | HoldFraming) =>
  [across_percent, up_percent].some((each) => each && formulaOf(each));

function Mark({ at, framing, slack, width, height }: Framing & { width: number; height: number }) {
  const across = useNumberAt(`${at}.across_percent`, framing.across_percent ?? FIFTY, true);
  const up = useNumberAt(`${at}.up_percent`, framing.up_percent ?? FIFTY, true);
  const set = (to: Place): Command => ({
    type: "set_numbers",
    frame: transport.getState().frame,
    key: false,
    values: [
      { at: `${at}.across_percent`, value: to.across },
      { at: `${at}.up_percent`, value: to.up },
    ],
  });
  const driven = isDriven(framing);
  const { bind, live } = useTrialDrag<void, Place>(
    {
      press: () => true,
      live: ({ dx, dy }) => within({ across: across + (100 * dx) / width, up: up - (100 * dy) / height }),
      command: set,
    },
    !driven,
  );
  const reached = useReached<Place>();
  const place = live?.value ?? { across, up };
  const centerX = (place.across / 100) * width;
  const top = (1 - place.up / 100) * height;
  return (
    <>
      {slack && (
        <span
          className="pointer-events-none absolute border border-[#F4F0E6]/70 border-dashed"
          data-testid="slack"
          style={{
            left: centerX - (slack[0] / 100) * width,
            top: top - (slack[1] / 100) * height,
            width: (2 * slack[0] * width) / 100,
            height: (2 * slack[1] * height) / 100,
          }}
        />
      )}
      <button
        type="button"
        aria-label="Place of the subject on screen"
        title={`Framing target: ${place.across.toFixed(1)} % across, ${place.up.toFixed(1)} % up; ${driven ? "it follows a formula" : "drag it"}`}
        className={`absolute -translate-x-1/2 -translate-y-1/2 touch-none ${driven ? "" : "cursor-move"}`}
        style={{ left: centerX, top, width: SIZE_PX, height: SIZE_PX }}
        {...bind()}
        onClick={keepArrows}
        onKeyDown={(event) =>
          byArrows(event, (x, y) => {
            const step = (from: Place) => within({ across: from.across + x * STEP, up: from.up + y * STEP });
            void commit(set(reached("place", place, step)));
          })
        }
      >
        <svg viewBox="0 0 26 26" aria-hidden="true">
          <g fill="none" stroke="#17181B" strokeWidth="3.4" strokeOpacity="0.55">
            <path d={MARK} />
          </g>
          <g fill="none" stroke="#F4F0E6" strokeWidth="1.4">
            <path d={MARK} />
          </g>
        </svg>
      </button>
    </>
  );
}

const FIFTY = { state: "fixed" as const, value: 50 };
/** Two brackets about an open middle. */
const MARK = "M7 3H3V7 M19 3H23V7 M7 23H3V19 M19 23H23V19 M13 9V11.5 M13 14.5V17 M9 13H11.5 M14.5 13H17";
