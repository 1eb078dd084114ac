/** Actions on the time of the shot. */
import { selection } from "../../stores/selection";
import { chooseTimeEdit } from "../../stores/timeEdit";
import type { Action } from "./action";

export const TIMING: Action[] = [
  {
    id: "insert-time",
    title: "Insert frames …",
    also: "edit time delay later offset ripple retime add hold longer",
    keys: ["Shift+I"],
    run: () => chooseTimeEdit("insert"),
  },
  {
    id: "take-out-time",
    title: "Take out frames …",
    also: "edit time delete remove cut ripple retime shorter earlier",
    keys: [],
    run: () => chooseTimeEdit("take-out"),
  },
  {
    id: "stretch-time",
    title: "Stretch or squeeze a range …",
    also: "edit time retime scale slower faster speed longer shorter",
    keys: [],
    run: () => chooseTimeEdit("stretch"),
  },
  {
    id: "shift-after",
    title: "Shift everything after the playhead …",
    also: "edit time delay later earlier offset ripple retime move",
    keys: [],
    run: () => chooseTimeEdit("shift"),
  },
  {
    id: "ease-time",
    title: "Ease into and out of a range …",
    also: "edit time warp slow in out retime",
    keys: [],
    run: () => chooseTimeEdit("ease"),
  },
  {
    id: "reverse-time",
    title: "Reverse a range …",
    also: "edit time backwards flip mirror retime",
    keys: [],
    run: () => chooseTimeEdit("reverse"),
  },
  {
    id: "slip-clip",
    title: "Slip what is in the clip …",
    also: "edit time offset delay later shift content",
    keys: [],
    available: () => selection().kind === "clip",
    run: () => chooseTimeEdit("slip"),
  },
];
