import { useEffect, useRef } from "react";
import { useStore } from "zustand";
import { useShallow } from "zustand/react/shallow";
import { AROUND, fitted } from "../../shared/fit";
import { useSize } from "../../shared/useSize";
import { motion, rowOf } from "../../stores/motion";
import { session } from "../../stores/session";
import { transport } from "../../stores/transport";
import { view } from "../../stores/view";
import { stage } from "../set-view";
import { Guides } from "./Guides";
import { Scribble } from "./Scribble";
import { useFlying } from "./useFlying";
import { useLoupe } from "./useLoupe";

const POSE_FOCAL = 6;

/** Present focal length and pose, written straight into the page as frames go by. */
function useFocal(pane: React.RefObject<HTMLElement | null>): React.RefObject<HTMLSpanElement | null> {
  const ref = useRef<HTMLSpanElement>(null);
  useEffect(() => {
    const show = () => {
      const pose = motion.getState().arrays.get(view.getState().bypass ? "bare" : "pose");
      if (!ref.current || !pose) return;
      const at = rowOf(transport.getState().frame) * pose.columns;
      const focal = pose.data[at + POSE_FOCAL] ?? 0;
      if (pane.current) pane.current.dataset.pose = [...pose.data.slice(at, at + POSE_FOCAL)].join(" ");
      ref.current.textContent = `${focal.toFixed(focal < 100 ? 1 : 0)} mm`;
    };
    show();
    const stops = [motion.subscribe(show), transport.subscribe(show), view.subscribe(show)];
    return () => {
      for (const stop of stops) stop();
    };
  }, [pane]);
  return ref;
}

/** The pane of the Viewfinder: guides, readings and scribble over the picture. */
export function ViewfinderPane() {
  const [ref, size] = useSize<HTMLDivElement>();
  const document = useStore(session, (state) => state.state?.document);
  const readings = useStore(motion, (state) => state.readings);
  const drawn = useStore(motion, (state) => state.revision);
  const upToDate = useStore(session, (state) => state.state?.revision === drawn);
  const { guides, scribble, bypass, flying, picking, around, loupe } = useStore(
    view,
    useShallow(({ guides, scribble, bypass, flying, picking, around, loupe }) => ({
      guides,
      scribble,
      bypass,
      flying,
      picking,
      around,
      loupe,
    })),
  );
  useLoupe(ref, !flying && !picking);
  useFlying(ref, flying);
  const focal = useFocal(ref);
  const aspect = document ? document.picture.width_px / document.picture.height_px : 16 / 9;
  const rect = fitted(size.width, size.height, aspect);
  useEffect(() => {
    stage.setState({ finder: ref.current, aspect });
    return () => stage.setState({ finder: null });
  }, [ref, aspect]);
  const hasLayers = (document?.lanes ?? []).some((lane) => lane.clips.some((clip) => clip.layers.length > 0));
  return (
    <div
      ref={ref}
      className={`relative h-full w-full overflow-hidden ${flying || picking ? "cursor-crosshair touch-none" : ""}`}
      data-testid="viewfinder"
      data-ready={upToDate ? "yes" : "no"}
    >
      <div className="absolute" style={{ left: rect.x, top: rect.y, width: rect.width, height: rect.height }}>
        {around && <FrameEdge />}
        {!around && loupe.zoom === 1 && <Guides {...guides} />}
        <span className="cond absolute top-2 left-2 rounded-sm bg-base-100/80 px-2 py-0.5 text-xs">
          Viewfinder · <span ref={focal} className="num" />
          {loupe.zoom > 1 && <b className="ml-2 text-info">×{loupe.zoom.toFixed(1)} · 0 shows all</b>}
          {flying && <b className="ml-2 text-info">flying: drag turns, Shift shifts, wheel goes</b>}
          {picking && <b className="ml-2 text-info">click the point to look at</b>}
          {bypass && <b className="ml-2 text-warning">bare move</b>}
        </span>
        {readings && (
          <span className="num absolute bottom-2 left-2 rounded-sm bg-base-100/80 px-2 py-0.5 text-[11px]">
            swing {readings.total_swing_px.toFixed(0)} px · streak {readings.streak_px.toFixed(1)} px at 180° · subject{" "}
            {readings.subject_distance_m.toFixed(1)} m
          </span>
        )}
        {scribble && hasLayers && rect.width > 320 && (
          <span className="absolute right-2 bottom-2">
            <Scribble width={104} height={70} />
          </span>
        )}
      </div>
    </div>
  );
}

/** The edge of the picture while its surroundings are shown: what is outside is dimmed. */
function FrameEdge() {
  const inset = `${(1 - 1 / AROUND) * 50}%`;
  return (
    <div className="absolute inset-0 overflow-hidden">
      <div
        className="absolute outline-1 outline-[#F4F0E6]/80"
        style={{ inset, boxShadow: "0 0 0 999px rgb(23 24 27 / 0.5)" }}
      />
    </div>
  );
}
