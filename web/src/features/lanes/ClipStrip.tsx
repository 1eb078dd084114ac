import { useStore } from "zustand";
import type { Clip, Lane } from "../../api/types";
import { timeScale } from "../../shared/timeScale";
import { view } from "../../stores/view";
import { ClipBar } from "./ClipBar";
import { FadeGrips } from "./FadeGrips";
import { HullShape } from "./HullShape";
import { LayerWave } from "./LayerWave";
import { useClipSpan } from "./useLayerReading";

/** Lines are a little wide. */
const EDGE_PX = 2;

type ClipStripProps = { lane: Lane; open: Clip | undefined; width: number; height: number; waves: boolean };

/** The clips of a lane as bars: the waveform of all that each holds inside its hull; where bars overlap the hulls cross. */
export function ClipStrip({ lane, open, width, height, waves }: ClipStripProps) {
  const size = { width, height };
  return (
    <div className="relative overflow-hidden" style={size}>
      {waves && lane.clips.map((clip) => <ClipWave key={clip.id} clip={clip} {...size} />)}
      {lane.clips.map((clip) => (
        <ClipBar key={clip.id} clip={clip} open={clip === open} {...size} />
      ))}
      <FadeGrips lane={lane} {...size} />
    </div>
  );
}

type ClipWaveProps = { clip: Clip; width: number; height: number };

/** A clip's waveform and hull, as wide as what shows of it: strips with many clips are drawn once, not once a clip. */
function ClipWave({ clip, width, height }: ClipWaveProps) {
  const span = useClipSpan(clip.id);
  // Frames shown in whole pixels; none while the clip is out of sight.
  const place = useStore(view, ({ window }) => {
    if (!span) return "";
    const x = timeScale(window, width);
    const startX = Math.max(0, Math.floor(x(span.first_frame)) - EDGE_PX);
    const right = Math.min(width, Math.ceil(x(span.last_frame)) + EDGE_PX);
    return right > startX ? `${startX} ${right - startX}` : "";
  });
  if (!place) return null;
  const [left = 0, wide = 0] = place.split(" ").map(Number);
  const size = { width: wide, height, part: { left, of: width } };
  return (
    <div className="pointer-events-none absolute inset-y-0" style={{ left, width: wide }}>
      <HullShape array={`hull:${clip.id}`} {...size} />
      <div className="absolute inset-0">
        <LayerWave
          name={clip.name}
          array={`clip:${clip.id}`}
          of={clip.layers.map(({ id }) => id)}
          faint={clip.mute}
          bare
          {...size}
        />
      </div>
    </div>
  );
}
