/** Actions on the move: placing the camera, its keys. */

import { keyHere } from "../../acts/moving";
import { extend, nudge, runOn, stretch } from "../../acts/pins";
import { aim, fromOutside, level, snap, square, takeLens } from "../../acts/placing";
import { markSubject } from "../../stores/editing";
import { serverTables } from "../../stores/serverTables";
import { selectPins, view } from "../../stores/view";
import { type Action, shotNow } from "./action";

const { extends: EXTENDS, framings: FRAMINGS, interps: INTERPS, lenses_mm: LENSES_MM } = serverTables().forms;

const withSubject = () => Boolean(shotNow()?.subject);
const SIDES = { before: "before the first key", after: "after the last key" } as const;

export const MOVING: Action[] = [
  { id: "key", title: "Set key on the move", keys: ["K"], run: keyHere },
  {
    id: "key-every-change",
    title: "Toggle key every change",
    also: "record recording perform live",
    keys: [],
    run: () => view.setState((state) => ({ keyEveryChange: !state.keyEveryChange })),
  },
  { id: "move", title: "Select the move", keys: [], run: () => selectPins([]) },
  {
    id: "fly",
    title: "Toggle flying in the Viewfinder",
    keys: ["V"],
    run: () => view.setState((state) => ({ flying: !state.flying, board: "move" })),
  },
  {
    id: "pick",
    title: "Pick subject in the set",
    keys: ["P"],
    run: () => view.setState((state) => ({ picking: state.picking ? false : "subject", board: "move" })),
  },
  { id: "no-subject", title: "Clear subject", keys: [], available: withSubject, run: () => void markSubject(null) },
  { id: "outside", title: "Move camera to the Set view's eye", keys: [], run: fromOutside },
  { id: "aim", title: "Aim at the subject", keys: ["A"], available: withSubject, run: () => void aim(null) },
  ...FRAMINGS.map(({ fill, title }) => ({
    id: `aim-${title}`,
    title: `Aim at the subject, ${title}`,
    keys: [],
    available: withSubject,
    run: () => void aim(fill),
  })),
  { id: "level", title: "Level: roll to zero", keys: [], run: level },
  { id: "square", title: "Square: angles to the nearest 90°", keys: [], run: square },
  { id: "zero-pan", title: "Pan to zero", keys: [], run: () => snap(["pan_deg"], true) },
  { id: "zero-tilt", title: "Tilt to zero", keys: [], run: () => snap(["tilt_deg"], true) },
  ...LENSES_MM.map((focal) => ({
    id: `lens-${focal}`,
    title: `Lens of ${focal} mm`,
    also: "zoom focal length",
    keys: [],
    run: () => takeLens(focal),
  })),
  { id: "nudge-back", title: "Nudge keys 1 frame earlier", keys: [","], repeats: true, run: () => nudge(-1) },
  { id: "nudge-on", title: "Nudge keys 1 frame later", keys: ["."], repeats: true, run: () => nudge(1) },
  ...INTERPS.map((interp) => ({
    id: `run-${interp}`,
    title: interp === "linear" ? "Interpolate keys: linear (constant speed)" : `Interpolate keys: ${interp}`,
    keys: [],
    run: () => runOn(interp),
  })),
  { id: "shorter", title: "Squeeze keys ×0.5", keys: [], run: () => void stretch(0.5) },
  { id: "longer", title: "Stretch keys ×2", keys: [], run: () => void stretch(2) },
  ...(["before", "after"] as const).flatMap((side) =>
    EXTENDS.map((how) => ({
      id: `${side}-${how}`,
      title: `Move ${SIDES[side]}: ${how}`,
      keys: [],
      run: () => extend(side, how),
    })),
  ),
];
