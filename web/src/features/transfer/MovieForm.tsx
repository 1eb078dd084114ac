import { useStore } from "zustand";
import type { MovieRequest, State } from "../../api/types";
import { NumberField } from "../../shared/number";
import { Tick } from "../../shared/Tick";
import { transport } from "../../stores/transport";
import { LeanText } from "./LeanText";
import { showingOf, showings, widthOf } from "./movieRequest";
import { NumberOption, OptionField } from "./OptionField";

/** Heights that are offered; the picture keeps the shot's shape. */
const HEIGHTS = [360, 540, 720, 1080, 1440, 2160];
const MAX_SIDE_PX = 4096;
const QUALITIES = { draft: "small file", good: "good", best: "best" };
const SHUTTERS = [0, 90, 180, 270, 360];
const SUBFRAMES = [1, 4, 8, 16, 32, 64];

const TICK = "cond min-h-6 truncate";

type MovieFormProps = {
  state: State;
  asked: MovieRequest;
  disabled: boolean;
  onChange: (asked: MovieRequest) => void;
};

type PartProps = { asked: MovieRequest; put: (more: Partial<MovieRequest>) => void };

/** Size, range, quality, shutter and comparison of a movie. */
export function MovieForm({ state, asked, disabled, onChange }: MovieFormProps) {
  const change = (more: Partial<MovieRequest>) => onChange({ ...asked, ...more });
  return (
    <fieldset className="mb-4 grid grid-cols-4 gap-x-4 gap-y-2 text-sm" disabled={disabled}>
      <legend className="sr-only">Movie</legend>
      <PictureFields state={state} asked={asked} put={change} />
      <ShutterFields asked={asked} put={change} />
      <span className="flex flex-col justify-end gap-1">
        <Tick title="guides" className={TICK} on={asked.guides} onChange={(guides) => change({ guides })} />
        <Tick title="burn-in strip" className={TICK} on={asked.strip} onChange={(strip) => change({ strip })} />
      </span>
    </fieldset>
  );
}

function PictureFields({ state, asked, put }: PartProps & { state: State }) {
  const among = showings(state);
  const heights = HEIGHTS.filter((height) => widthOf(state, height) <= MAX_SIDE_PX);
  return (
    <>
      <OptionField
        title="Size"
        value={String(asked.height_px)}
        options={heights.map((height) => ({ value: String(height), title: `${widthOf(state, height)} × ${height}` }))}
        onChange={(value) => put({ height_px: Number(value), width_px: widthOf(state, Number(value)) })}
      />
      <RangeField asked={asked} put={put} />
      <OptionField
        title="Quality"
        value={asked.quality}
        options={Object.entries(QUALITIES).map(([value, title]) => ({ value, title }))}
        onChange={(value) => put({ quality: value as MovieRequest["quality"] })}
      />
      <OptionField
        title="Shows"
        value={showingOf(asked, among)}
        options={among.map(({ key, title }) => ({ value: key, title }))}
        onChange={(value) => {
          const { panes, layout } = among.find(({ key }) => key === value) ?? asked;
          put({ panes, layout });
        }}
      />
    </>
  );
}

function RangeField({ asked, put }: PartProps) {
  const loop = useStore(transport, (each) => each.loop);
  const ranged = asked.first_frame !== null && asked.first_frame !== undefined;
  const [first, last] = loop ?? [asked.first_frame, asked.last_frame];
  const options = [{ value: "all", title: "whole shot" }];
  if (loop || ranged) options.push({ value: "loop", title: `loop range ${first}–${last}` });
  return (
    <OptionField
      title="Frames"
      value={ranged ? "loop" : "all"}
      options={options}
      onChange={(value) =>
        put(value === "loop" ? { first_frame: first, last_frame: last } : { first_frame: null, last_frame: null })
      }
    />
  );
}

function ShutterFields({ asked, put }: PartProps) {
  return (
    <>
      <OptionField
        title="Shutter"
        value={String(asked.shutter_deg)}
        options={SHUTTERS.map((each) => ({ value: String(each), title: each === 0 ? "no blur" : `${each}°` }))}
        onChange={(value) => put({ shutter_deg: Number(value) })}
      />
      <OptionField
        title="Sub-frames"
        value={String(asked.subframes)}
        options={SUBFRAMES.map((each) => ({ value: String(each), title: String(each) }))}
        onChange={(value) => put({ subframes: Number(value) })}
      />
      <NumberOption title="Rolling shutter" hint="Readout time of the sensor, first row to last; 0: global shutter">
        <NumberField
          label="Rolling shutter"
          value={asked.readout_ms}
          unit="ms"
          step={0.5}
          least={0}
          most={100}
          digits={1}
          className="w-full text-left!"
          onCommit={(readout_ms) => put({ readout_ms })}
        />
        {asked.readout_ms > 0 && <LeanText readoutMs={asked.readout_ms} />}
      </NumberOption>
    </>
  );
}
