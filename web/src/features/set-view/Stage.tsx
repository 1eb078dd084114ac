import { Canvas, useThree } from "@react-three/fiber";
import { Suspense, useEffect, useState } from "react";
import { useStore } from "zustand";
import { shallow } from "zustand/shallow";
import { drawsAtAll, drawsInSoftware } from "../../shared/renderer";
import { motion } from "../../stores/motion";
import { openShot } from "../../stores/openShot";
import { sides } from "../../stores/sides";
import { stage } from "../../stores/stage";
import { stillFrame } from "../../stores/stillFrame";
import { transport } from "../../stores/transport";
import { trials } from "../../stores/trials";
import { view } from "../../stores/view";
import { CameraBody } from "./CameraBody";
import { CueMarks } from "./CueMarks";
import { EmptySet } from "./EmptySet";
import { Lights } from "./Lights";
import { MovieFrames } from "./MovieFrames";
import { Pace } from "./Pace";
import { PathRibbon } from "./PathRibbon";
import { Plates } from "./Plates";
import { RigShapes } from "./RigShapes";
import { ofMotion, ofView } from "./redrawing";
import { SetFailure } from "./SetFailure";
import { SetPieces } from "./SetPieces";
import { TwoViews } from "./TwoViews";

/** Draws again whenever something it shows has changed, and only then. */
function Redraw() {
  const invalidate = useThree((state) => state.invalidate);
  useEffect(() => {
    const again = () => invalidate();
    const stops = [transport, stage, trials, sides, stillFrame].map((each) => each.subscribe(again));
    stops.push(view.subscribe((now, before) => shallow(ofView(now), ofView(before)) || again()));
    stops.push(motion.subscribe((now, before) => shallow(ofMotion(now), ofMotion(before)) || again()));
    return () => {
      for (const stop of stops) stop();
    };
  }, [invalidate]);
  return null;
}

/** Listens for a restored graphics context: its contents are lost, so the canvas is rebuilt. */
function Renewal({ onRestored }: { onRestored: () => void }) {
  const canvas = useThree((state) => state.gl.domElement);
  useEffect(() => {
    canvas.addEventListener("webglcontextrestored", onRestored);
    return () => canvas.removeEventListener("webglcontextrestored", onRestored);
  });
  return null;
}

/** Background behind plates without a set. */
const DUSK = "#3A3D42";
const COARSE_DPR = 0.5;
const MAX_DPR = 2;

/** Device resolution; with software rendering, one pixel per CSS pixel. */
const fineDpr = (): number => (drawsInSoftware() ? 1 : Math.min(window.devicePixelRatio, MAX_DPR));

function NoPictures() {
  return (
    <p role="alert" className="absolute inset-x-0 top-1/3 z-10 mx-auto max-w-md text-center text-sm">
      This browser cannot draw the views: WebGL 2 is off or missing. Enable hardware acceleration, or use another
      browser. Lanes, boards, readings and exports still work.
    </p>
  );
}

/** One canvas under both panes. */
export function Stage() {
  const coarse = useStore(stage, (state) => state.coarse);
  const light = useStore(view, (state) => state.light);
  const setId = useStore(openShot, (state) => state.state?.document.set_id ?? null);
  const plates = useStore(openShot, (state) => state.state?.document.plates.length ?? 0);
  const [generation, setGeneration] = useState(0);
  if (!drawsAtAll()) return <NoPictures />;
  return (
    <div className="pointer-events-none absolute inset-0">
      <Canvas
        key={generation}
        frameloop="demand"
        dpr={coarse || light ? COARSE_DPR : fineDpr()}
        shadows="percentage"
        gl={{
          antialias: !drawsInSoftware(),
          powerPreference: "high-performance",
          alpha: false,
          stencil: false,
          preserveDrawingBuffer: drawsInSoftware(),
        }}
      >
        <Redraw />
        <Renewal onRestored={() => setGeneration((each) => each + 1)} />
        <Pace />
        <Lights />
        <SetFailure key={setId ?? "none"}>
          <Suspense fallback={null}>
            {setId ? <SetPieces setId={setId} /> : plates ? <color attach="background" args={[DUSK]} /> : <EmptySet />}
          </Suspense>
        </SetFailure>
        <Plates />
        <PathRibbon />
        <CueMarks />
        <RigShapes />
        <CameraBody />
        <TwoViews />
        <MovieFrames />
      </Canvas>
    </div>
  );
}
