import { ChevronLeft, ChevronRight, Pause, Play, Repeat, SkipBack } from "lucide-react";
import { useStore } from "zustand";
import { useShallow } from "zustand/react/shallow";
import { seek, step, togglePlay, transport } from "../../stores/transport";
import { Clock } from "./Clock";

/** Play, step, loop; frame and time. */
export function TransportBar() {
  const playing = useStore(transport, (state) => state.playing);
  const looping = useStore(transport, (state) => state.looping);
  const loop = useStore(transport, (state) => state.loop);
  const { first, last, fps } = useStore(
    transport,
    useShallow(({ first, last, fps }) => ({ first, last, fps })),
  );
  const [from, to] = loop ?? [first, last];
  return (
    <div className="flex items-center gap-1.5">
      <button
        type="button"
        className="btn btn-sm btn-square"
        title="First frame (Home)"
        aria-label="First frame"
        onClick={() => seek(from)}
      >
        <SkipBack size={14} />
      </button>
      <button
        type="button"
        className="btn btn-sm btn-square"
        title="Previous frame (←)"
        aria-label="Previous frame"
        onClick={() => step(-1)}
      >
        <ChevronLeft size={16} />
      </button>
      <button type="button" className="btn btn-sm btn-accent w-20" title="Play or pause (Space)" onClick={togglePlay}>
        {playing ? <Pause size={14} /> : <Play size={14} />} {playing ? "Pause" : "Play"}
      </button>
      <button
        type="button"
        className="btn btn-sm btn-square"
        title="Next frame (→)"
        aria-label="Next frame"
        onClick={() => step(1)}
      >
        <ChevronRight size={16} />
      </button>
      <button
        type="button"
        className={`btn btn-sm gap-1 px-2 font-normal ${looping ? "" : "opacity-60"}`}
        aria-pressed={looping}
        title="Play in a loop (L)"
        onClick={() => transport.setState({ looping: !looping })}
      >
        <Repeat size={14} className={looping ? "" : "opacity-50"} />{" "}
        <span className="num text-xs">{`${from}–${to}`}</span>
      </button>
      <Clock fps={fps} />
    </div>
  );
}
