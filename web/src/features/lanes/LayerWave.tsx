import { useCallback } from "react";
import type { Layer } from "../../api/types";
import type { TimeScale } from "../../shared/timeScale";
import { motion } from "../../stores/motion";
import { drawWaves, inksOf, reach } from "./drawWave";
import { LaneCanvas } from "./LaneCanvas";
import { sumWaves, wavesOf } from "./waves";

/** A layer's own contribution, or the sum of several, as waveforms. */
export function LayerWave(props: { width: number; height: number; layers: Layer[]; array: string; faint?: boolean }) {
  const { width, height, layers, array, faint } = props;
  const draw = useCallback(
    (context: CanvasRenderingContext2D, x: TimeScale, canvas: HTMLCanvasElement) => {
      const { arrays, readings, first } = motion.getState();
      const values = arrays.get(array);
      const only = layers[0];
      const style = getComputedStyle(canvas);
      context.strokeStyle = style.getPropertyValue("--color-base-300");
      context.beginPath();
      context.moveTo(0, height / 2);
      context.lineTo(width, height / 2);
      context.stroke();
      if (!values || !only) return;
      const waves = array === "sum" ? sumWaves(layers, readings) : wavesOf(only, readings);
      const most = reach(values, waves);
      const scale = (height / 2 - 4) / most;
      drawWaves(context, values, waves, first, x, { top: 0, height, width }, scale, inksOf(canvas), faint ? 0.3 : 0.95);
      if (most > 1e-6) {
        context.font = '10px "IBM Plex Mono"';
        context.fillStyle = style.getPropertyValue("--graphite");
        const text = `±${most < 10 ? most.toFixed(1) : most.toFixed(0)} px`;
        const wide = context.measureText(text).width;
        context.globalAlpha = 0.75;
        context.fillStyle = style.getPropertyValue("--color-base-100");
        context.fillRect(width - wide - 9, 2, wide + 6, 12);
        context.globalAlpha = 1;
        context.fillStyle = style.getPropertyValue("--graphite");
        context.fillText(text, width - wide - 6, 11);
      }
    },
    [array, layers, height, width, faint],
  );
  return <LaneCanvas width={width} height={height} label={`Waveform of ${array}`} array={array} draw={draw} />;
}
