import { useCallback } from "react";
import { useStore } from "zustand";
import type { MotionArray } from "../../api/motion";
import { paperOf } from "../../shared/paper";
import type { Part, TimeScale } from "../../shared/timeScale";
import { motion } from "../../stores/motion";
import { drawWaves, reach, type Wave } from "./drawWave";
import { LaneCanvas } from "./LaneCanvas";
import { wavesText } from "./waves";

type LayerWaveProps = {
  width: number;
  height: number;
  /** Its label. */
  name: string;
  /** The samples that are drawn. */
  array: string;
  /** The layers that they are the sum of; all when none are named. */
  of: string[] | null;
  faint?: boolean;
  /** Without a middle line and its size in words. */
  bare?: boolean;
  /** Samples that are drawn in place of `array`'s, at the same frames. */
  instead?: () => MotionArray | null;
  /** The part of the lanes that it covers, if not the full width. */
  part?: Part;
};

/** Waveforms of a layer, a clip or the sum. */
export function LayerWave({ width, height, name, array, of, faint, bare, instead, part }: LayerWaveProps) {
  const text = useStore(motion, (state) => wavesText(state.readings, of));
  const draw = useCallback(
    (context: CanvasRenderingContext2D, x: TimeScale, canvas: HTMLCanvasElement) => {
      const { arrays } = motion.getState();
      const values = instead?.() ?? arrays.get(array);
      const { inks, graphite, rule, ground } = paperOf(canvas);
      if (!bare) {
        context.strokeStyle = rule;
        context.beginPath();
        context.moveTo(0, height / 2);
        context.lineTo(width, height / 2);
        context.stroke();
      }
      const waves = JSON.parse(text) as Wave[];
      if (!values || waves.length === 0) return;
      const maximum = reach(values, waves);
      const scale = (height / 2 - 4) / maximum;
      drawWaves(context, values, waves, x, { top: 0, height, width }, scale, inks, faint ? 0.3 : 0.95);
      if (maximum > 1e-6 && !bare) {
        context.font = '10px "IBM Plex Mono"';
        const label = `${height < 30 ? "" : "scale "}±${maximum < 10 ? maximum.toFixed(1) : maximum.toFixed(0)} px`;
        const wide = context.measureText(label).width;
        context.globalAlpha = 0.75;
        context.fillStyle = ground;
        context.fillRect(width - wide - 23, 2, wide + 6, 12);
        context.globalAlpha = 1;
        context.fillStyle = graphite;
        context.fillText(label, width - wide - 20, 11);
      }
    },
    [array, text, height, width, faint, bare, instead],
  );
  return (
    <LaneCanvas width={width} height={height} label={`Waveform of ${name}`} array={array} part={part} draw={draw} />
  );
}
