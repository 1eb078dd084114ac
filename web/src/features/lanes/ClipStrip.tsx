import type { Clip, Lane } from "../../api/types";
import { ClipBar } from "./ClipBar";
import { FadeGrips } from "./FadeGrips";
import { HullShape } from "./HullShape";
import { LayerWave } from "./LayerWave";

type ClipStripProps = { lane: Lane; open: Clip | undefined; width: number; height: number; waves: boolean };

/** The clips of a lane as bars: the waveform of all that each holds inside its hull; where bars overlap the hulls cross. */
export function ClipStrip({ lane, open, width, height, waves }: ClipStripProps) {
  const size = { width, height };
  return (
    <div className="relative overflow-hidden" style={size}>
      {waves &&
        lane.clips.map((clip) => (
          <div key={clip.id} className="pointer-events-none absolute inset-0">
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
        ))}
      {lane.clips.map((clip) => (
        <ClipBar key={clip.id} clip={clip} open={clip === open} {...size} />
      ))}
      <FadeGrips lane={lane} {...size} />
    </div>
  );
}
