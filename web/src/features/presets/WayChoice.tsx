import { useStore } from "zustand";
import type { Clip } from "../../api/types";
import { NumberField } from "../../shared/number";
import { Tick } from "../../shared/Tick";
import { presets } from "../../stores/presets";
import { serverTables } from "../../stores/serverTables";
import { transport } from "../../stores/transport";
import type { Way } from "./placing";
import { search, useHandheld, usePlacing } from "./sheetStore";

type WayRow = { way: Way; corner?: string; title: string; hint: string };

function waysFor(clip: Clip | undefined, loop: [number, number] | null): WayRow[] {
  const clipTitle = clip ? `“${clip.name}”` : "a clip";
  return [
    {
      way: "new",
      title: loop ? `Over frames ${loop[0]}–${loop[1]}` : "Over the whole shot",
      hint: "A clip on a new lane: over the loop range, or the whole shot without one; a short event from the playhead on",
    },
    {
      way: "here",
      title: "From the playhead",
      hint: "A clip on a new lane, as long as the preset says, else to the end",
    },
    {
      way: "instead",
      title: `Replace ${clipTitle}`,
      hint: "Replaces the content of the selected clip, or of the handheld one; its span stays",
    },
    {
      way: "over",
      title: "Cross-fade in at playhead",
      hint: "The selected clip cross-fades to the preset at the playhead",
    },
    ...(clip?.blend?.corners.map(({ id, name }) => ({
      way: "corner" as const,
      corner: id,
      title: `Into corner “${name}”`,
      hint: "Replaces this corner",
    })) ?? []),
  ];
}

/** Placement of a preset; the selected clip is the one that it replaces or follows. */
export function WayChoice({ clip }: { clip: Clip | undefined }) {
  const loop = useStore(transport, (each) => each.loop);
  const { way, corner } = usePlacing();
  return (
    <fieldset className="cond flex flex-col gap-0.5 text-[13px]" aria-label="Where it goes">
      {waysFor(clip, loop).map((each) => {
        const possible = clip || each.way === "new" || each.way === "here";
        return (
          <label
            key={`${each.way} ${each.corner ?? ""}`}
            title={each.hint}
            className={`flex items-start gap-1.5 ${possible ? "cursor-pointer" : "opacity-50"}`}
          >
            <input
              type="radio"
              name="way"
              className="tick tick-round"
              disabled={!possible}
              checked={way === each.way && (each.way !== "corner" || corner === each.corner)}
              onChange={() => search.setState({ way: each.way, corner: each.corner ?? null })}
            />
            <span className="min-w-0 break-words">{each.title}</span>
          </label>
        );
      })}
      {way === "over" && <FadeLength />}
      {(way === "new" || way === "here") && <WithRig />}
      {(way === "new" || way === "here") && <AddsUp />}
      {!clip && <span className="text-(--graphite) text-xs">Select a clip, or a layer of one, to use these.</span>}
    </fieldset>
  );
}

/** A shake on a handheld clip is larger than either. */
function AddsUp() {
  const handheld = useHandheld();
  if (!handheld) return null;
  return <span className="text-(--graphite) text-xs">“{handheld.name}” shakes already: the two add up.</span>;
}

/** Presets that were saved with a rig bring it, if that is wanted. */
function WithRig() {
  const withRig = useStore(search, (each) => each.withRig);
  const some = useStore(presets, ({ list }) => list.some(({ preset }) => (preset?.rig?.length ?? 0) > 0));
  if (!some) return null;
  return (
    <Tick
      title="with its rig"
      hint="Adds the mounts of presets that were saved with a rig"
      on={withRig}
      onChange={(on) => search.setState({ withRig: on })}
    />
  );
}

function FadeLength() {
  const { withinFrames } = usePlacing();
  const [least, most] = serverTables().forms.limits["cross_fade_to.within_frames"] ?? [1, 1000];
  const setFrames = (frames: number) => search.setState({ withinFrames: Math.round(frames) });
  return (
    <span className="flex items-center gap-1 pl-5 text-xs">
      within
      <NumberField
        label="Frames of the cross-fade"
        value={withinFrames}
        unit="frames"
        step={0.25}
        least={least}
        most={most}
        digits={0}
        className="border-base-300 border-b"
        onPreview={setFrames}
        onCommit={setFrames}
      />
    </span>
  );
}
