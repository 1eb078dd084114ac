import { useRef } from "react";
import { useStore } from "zustand";
import type { Clip, Lane, Shot } from "../../api/types";
import { AddLayerMenu } from "../../parts/AddLayerMenu";
import { ChoiceField } from "../../parts/ChoiceField";
import { NameField } from "../../parts/NameField";
import { SpanForm } from "../../parts/SpanForm";
import { ParamControl } from "../../shared/number";
import { usePending } from "../../shared/usePending";
import { commit } from "../../stores/editing";
import { motion } from "../../stores/motion";
import { openShot } from "../../stores/openShot";
import { serverTables } from "../../stores/serverTables";
import { view } from "../../stores/view";
import { BlendSection } from "./BlendSection";
import { ClipButtons } from "./ClipButtons";
import { LaneChoice } from "./LaneChoice";

/** The selected clip. */
export function ClipBoard() {
  const document = useStore(openShot, (each) => each.state?.document);
  const chosen = useStore(view, (each) => each.clip);
  const lane = document?.lanes.find(({ clips }) => clips.some(({ id }) => id === chosen));
  const clip = lane?.clips.find(({ id }) => id === chosen);
  if (!document || !lane || !clip) return null;
  const at = `clip:${clip.id}`;
  const { clip: looks, ramps } = serverTables().forms;
  const value = clip as unknown as Record<string, Clip["amount"]>;
  return (
    <div className="flex flex-col gap-2 px-3 py-1.5">
      <div className="flex items-center gap-2">
        <NameField key={clip.id} at={`${at}.name`} name={clip.name} label="Clip name" />
        <MuteSwitch clip={clip} />
        <span className="ml-auto" />
        <AddLayerMenu clip={clip.id} />
      </div>
      {clip.blend && <BlendSection clip={clip} blend={clip.blend} />}
      <div className="grid grid-cols-6 gap-x-2">
        {looks.map((look) => {
          const param = value[look.field];
          return (
            param && <ParamControl key={look.field} stacked at={`${at}.${look.field}`} param={param} look={look} />
          );
        })}
        <SpanForm at={at} />
      </div>
      <div className="grid grid-cols-3 gap-x-3">
        <ChoiceField at={`${at}.ramp_shape`} look={{ title: "ramp shape", choices: ramps }} value={clip.ramp_shape} />
        <LaneChoice lanes={document.lanes} lane={lane} />
        <ChoiceField at={`lane:${lane.id}.fade`} look={{ title: "cross-fades", choices: ramps }} value={lane.fade} />
      </div>
      <ClipButtons clip={clip} others={othersToBlend(document, clip)} />
      <FromPreset clip={clip} />
      <ClipFacts key={clip.id} clip={clip} lane={lane} />
    </div>
  );
}

/** Clips that may become corners with this one. */
function othersToBlend(shot: Shot, clip: Clip): Clip[] {
  return shot.lanes.flatMap(({ clips }) => clips.filter((each) => each.id !== clip.id && !each.blend));
}

/** The preset that the clip was placed from. */
function FromPreset({ clip }: { clip: Clip }) {
  const origin = clip.from_preset;
  if (!origin) return null;
  return (
    <p className="flex min-w-0 items-center gap-2 text-xs">
      <span className="min-w-0 truncate" title={origin.name}>
        Placed from the preset “{origin.name}”
      </span>
      <button
        type="button"
        className="btn btn-xs shrink-0"
        title="Shows what differs from the preset, to revert layer by layer"
        onClick={() => view.setState({ dialog: "origin" })}
      >
        Compare …
      </button>
    </p>
  );
}

function MuteSwitch({ clip }: { clip: Clip }) {
  const mute = usePending(`clip:${clip.id}.mute`, clip.mute);
  return (
    <button
      type="button"
      className={`btn btn-xs ${mute ? "btn-primary" : ""}`}
      aria-pressed={mute}
      onClick={() => void commit({ type: "set_values", values: [{ at: `clip:${clip.id}.mute`, value: !mute }] })}
    >
      Mute
    </button>
  );
}

function ClipFacts({ clip, lane }: { clip: Clip; lane: Lane }) {
  const measured = useStore(motion, ({ readings }) => readings?.clips.find((each) => each.clip === clip.id)?.size);
  // While something is dragged it is not measured: the last size stays.
  const last = useRef(measured);
  if (measured) last.current = measured;
  const size = last.current;
  const layers = clip.layers.length === 1 ? "1 layer" : `${clip.layers.length} layers`;
  const overlapNote = lane.clips.length > 1 ? `; ${lane.clips.length} clips are on its lane` : "";
  return (
    <p className="text-(--graphite) text-xs">
      {layers}
      {overlapNote}.
      {size && (
        <span title="Sum of its layers over its span, also when muted" data-testid="clip-size">
          {" "}
          On screen typical {size.typical_px.toFixed(0)} px, peak {size.peak_px.toFixed(0)} px.
        </span>
      )}{" "}
      Where bars of a lane overlap they cross-fade; lanes are summed. Drag the bar, its ends and its ramps.
    </p>
  );
}
