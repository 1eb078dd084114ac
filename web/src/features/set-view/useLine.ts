import { useEffect, useMemo } from "react";
import { BufferAttribute, BufferGeometry, Line, LineBasicMaterial } from "three";
import { OUTSIDE } from "./layers";

/** A thin line of a number of points for the outside view; its owner writes the points. It is rebuilt only for another number of them. */
export function useLine(points: number, color: string): Line | null {
  const line = useMemo(() => {
    if (points < 2) return null;
    const geometry = new BufferGeometry().setAttribute(
      "position",
      new BufferAttribute(new Float32Array(3 * points), 3),
    );
    const newLine = new Line(geometry, new LineBasicMaterial({ color, fog: false }));
    newLine.layers.mask = OUTSIDE.mask;
    newLine.frustumCulled = false;
    return newLine;
  }, [points, color]);
  useEffect(
    () => () => {
      line?.geometry.dispose();
      (line?.material as LineBasicMaterial | undefined)?.dispose();
    },
    [line],
  );
  return line;
}
