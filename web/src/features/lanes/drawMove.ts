import type { MotionArray } from "../../api/motion";
import { paperOf } from "../../shared/paper";
import { reachOf } from "../../shared/reachOf";
import type { TimeScale } from "../../shared/timeScale";
import { motion } from "../../stores/motion";
import { serverTables } from "../../stores/serverTables";
import { drawWaves } from "./drawWave";

const PIN_ROW_PX = 16;
const FOOT_PX = 4;
const FILLS = 0.86;
const MIN_REACH = 1e-6;
const PLAIN = 0.9;
/** Keyed curves where an operator aims. */
const FAINT = 0.3;
/** Columns of what the operator makes of pan and tilt. */
const AIMED: Record<string, number> = { pan: 0, tilt: 1 };

/** Draws the numbers of the bare move that change, each to its own height, in the inks of the axes they belong to. Where an operator aims, pan and tilt are the result, with the keyed curves behind them. */
export function drawMove(context: CanvasRenderingContext2D, x: TimeScale, canvas: HTMLCanvasElement): void {
  const { arrays } = motion.getState();
  const bare = arrays.get("bare");
  const aimed = arrays.get("aimed");
  if (!bare) return;
  const { inks } = paperOf(canvas);
  const height = canvas.clientHeight - PIN_ROW_PX - FOOT_PX;
  const box = { top: PIN_ROW_PX, height, width: canvas.clientWidth };
  const draw = (array: MotionArray, column: number, ink: keyof typeof inks, strength: number) => {
    const [low, high] = reachOf(array, column);
    if (high - low < MIN_REACH) return;
    // Forward is up, as on the axis board, where the world's z grows backwards.
    const perUnit = (ink === "dolly" ? -1 : 1) / (high - low);
    const wave = { axis: ink, column, perUnit, middle: (low + high) / 2 };
    drawWaves(context, array, [wave], x, box, box.height * FILLS, inks, strength);
  };
  for (const [column, { ink, group }] of serverTables().forms.move.entries()) {
    if (group === "lens") continue;
    const turned = aimed && AIMED[ink];
    draw(bare, column, ink, turned === undefined ? PLAIN : FAINT);
    if (aimed && turned !== undefined) draw(aimed, turned, ink, PLAIN);
  }
}
