import { useEffect } from "react";
import { useStore } from "zustand";
import { useShallow } from "zustand/react/shallow";
import { fitted } from "../../shared/fit";
import { useSize } from "../../shared/useSize";
import { motion } from "../../stores/motion";
import { openShot } from "../../stores/openShot";
import { elementOf, FINDER, hang, stage } from "../../stores/stage";
import { stillFrame } from "../../stores/stillFrame";
import { transport } from "../../stores/transport";
import { view } from "../../stores/view";
import { BareEdges } from "./BareEdges";
import { FinderReadings, FinderTitle } from "./FinderText";
import { FrameEdge } from "./FrameEdge";
import { FramingMark } from "./FramingMark";
import { Guides } from "./Guides";
import { PastSet } from "./PastSet";
import { Scribble } from "./Scribble";
import { useFlying } from "./useFlying";
import { useLoupe } from "./useLoupe";

/** Whether the still picture is blurred. */
function useBlurred(): boolean {
  const moving = useStore(transport, (each) => each.playing);
  return useStore(stillFrame, ({ on, moments }) => on && moments !== null) && !moving;
}

const ROOM_FOR_SCRIBBLE_PX = 320;

/** The pane of the Viewfinder: guides, readings and scribble over the picture. */
export function ViewfinderPane() {
  const [ref, size] = useSize<HTMLDivElement>();
  const document = useStore(openShot, (state) => state.state?.document);
  const drawn = useStore(motion, (state) => state.revision);
  const upToDate = useStore(openShot, (state) => state.state?.revision === drawn);
  const hasLayers = useStore(motion, (state) => (state.readings?.layers.length ?? 0) > 0);
  const pane = useStore(stage, elementOf(FINDER));
  const { guides, scribble, readings, flying, picking, around, close } = useStore(
    view,
    useShallow(({ guides, scribble, readings, flying, picking, around, loupe }) => ({
      guides,
      scribble,
      readings,
      flying,
      picking: picking !== false,
      around,
      close: loupe.zoom > 1,
    })),
  );
  useLoupe(pane, !flying && !picking);
  useFlying(pane, flying);
  const aspect = document ? document.picture.width_px / document.picture.height_px : 16 / 9;
  const rect = fitted(size.width, size.height, aspect);
  useEffect(() => {
    stage.setState({ aspect });
    return ref.current ? hang({ id: FINDER, element: ref.current, camera: "lens" }) : undefined;
  }, [ref, aspect]);
  return (
    <div
      ref={ref}
      className={`relative h-full w-full select-none overflow-hidden ${flying || picking ? "cursor-crosshair touch-none" : ""}`}
      data-testid="viewfinder"
      data-ready={upToDate ? "yes" : "no"}
      data-blurred={useBlurred() ? "yes" : "no"}
      data-tiles={useStore(stage, (each) => each.tiles)}
    >
      <div className="absolute" style={{ left: rect.x, top: rect.y, width: rect.width, height: rect.height }}>
        {around && <FrameEdge />}
        {!around && !close && <BareEdges width={rect.width} height={rect.height} />}
        {!around && !close && <PastSet />}
        {!around && !close && <Guides {...guides} />}
        {!around && !close && !flying && !picking && <FramingMark width={rect.width} height={rect.height} />}
        <FinderTitle pane={pane} />
        {readings && <FinderReadings />}
        {scribble && hasLayers && rect.width > ROOM_FOR_SCRIBBLE_PX && (
          <span className="absolute right-2 bottom-2">
            <Scribble width={104} height={70} />
          </span>
        )}
      </div>
    </div>
  );
}
