import { useThree } from "@react-three/fiber";
import { useEffect, useMemo, useRef } from "react";
import type { Texture } from "three";
import { fitted } from "../../shared/fit";
import { orderOf } from "../../stores/movie";
import { stage } from "../../stores/stage";
import { stillNow } from "../../stores/stillFrame";
import { view } from "../../stores/view";
import { type Box, seenNow } from "./drawViews";
import { Exposer } from "./exposer";
import { discard, pass, run, SHOWN } from "./passes";

/** State of the scene without the lens: display of its pieces, and loaded pictures. */
function sceneKey(): unknown[] {
  const { looks, tinted } = view.getState();
  const { ready, plates, missing, tiles, hung, pieces } = stage.getState();
  return [looks, tinted, ready, plates, missing, tiles, hung, pieces];
}

type Exposed = { exposer: Exposer; width: number; height: number; of: string; light: Texture | null };

/** Draws the large Viewfinder at rest as the shutter sees it; answers whether it did. */
export function useStill(): (box: Box, aspect: number, canvasHeight: number) => boolean {
  const { gl, scene } = useThree();
  const exposed = useRef<Exposed | null>(null);
  const show = useMemo(() => pass(SHOWN), []);
  useEffect(
    () => () => {
      exposed.current?.exposer.dispose();
      exposed.current = null;
      discard(show);
    },
    [show],
  );
  return (box, aspect, canvasHeight) => {
    const moments = stillNow();
    if (!moments || view.getState().bypass) return false;
    const currentView = seenNow(aspect);
    const { x, y, width, height } = fitted(box.width, box.height, aspect);
    const dpr = gl.getPixelRatio();
    const size = [Math.round(width * dpr), Math.round(height * dpr)] as const;
    if (!exposed.current || exposed.current.width !== size[0] || exposed.current.height !== size[1]) {
      exposed.current?.exposer.dispose();
      exposed.current = {
        exposer: new Exposer(gl, scene, ...size, 0),
        width: size[0],
        height: size[1],
        of: "",
        light: null,
      };
    }
    const now = exposed.current;
    const stillKey = JSON.stringify([Array.from(moments.at), currentView, sceneKey()]);
    if (now.of !== stillKey) {
      const draws = Array.from(moments.at, () => ({ top: 0, bottom: 1, weight: 1 / moments.at.length }));
      const order = orderOf(moments, 0, draws.length);
      now.light = now.exposer.expose(draws, order, "pose:0", currentView, false);
      now.of = stillKey;
    }
    if (!now.light) return false;
    gl.setRenderTarget(null);
    const bottom = canvasHeight - box.top - y - height;
    gl.setViewport(box.left + x, bottom, width, height);
    gl.setScissor(box.left + x, bottom, width, height);
    gl.autoClear = false;
    run(gl, show, now.light);
    gl.autoClear = true;
    return true;
  };
}
