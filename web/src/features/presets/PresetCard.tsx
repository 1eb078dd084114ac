import type { Clip, PresetEntry, Swatch } from "../../api/types";
import { drawScribble, drawWaves } from "../../parts/drawSwatch";
import { SwatchPicture } from "../../parts/SwatchPicture";
import { dragCard } from "../../shared/cardDrag";
import { toggleMark } from "../../stores/presets";
import { CardMenu } from "./CardMenu";

const SCRIBBLE = { width: 58, height: 46 };
const WAVE_PX = 20;
const PADDING_PX = 14;

type PresetCardProps = {
  entry: PresetEntry;
  swatch: Swatch | null;
  width: number;
  triedOn: boolean;
  marked: boolean;
  clip: Clip | undefined;
  onTry: () => void;
  onLeave: () => void;
  onPlace: () => void;
};

/** A preset: how it moves this shot's picture, what it is like, how large it is. Pointed at, it is tried on; clicked, it is placed. */
export function PresetCard({ entry, swatch, width, triedOn, marked, clip, ...on }: PresetCardProps) {
  const { onTry, onLeave, onPlace } = on;
  const { preset } = entry;
  if (!preset) return <BrokenCard entry={entry} />;
  const tags = [...(entry.own ? ["yours"] : []), ...preset.tags].join(" · ");
  const size = swatch ? `${swatch.typical_px.toFixed(0)} px` : "…";
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: the button in it does the same by keyboard
    <div
      className={`relative rounded-sm border ${triedOn ? "border-primary bg-(--wash)" : "border-base-300"}`}
      // Not for a card that moved under the pointer.
      onMouseMove={(event) => !triedOn && (event.movementX || event.movementY) && onTry()}
      onPointerLeave={onLeave}
    >
      <button
        type="button"
        data-card={entry.key}
        aria-label={`Preset ${preset.name} ${size} ${preset.line} ${tags}`}
        title={`${preset.line} Typical motion in this shot's picture: ${size}. Click to place it; drag it onto a corner of a blend.`}
        className="flex w-full flex-col gap-0.5 px-1.5 py-1 text-left"
        {...dragCard(entry.key)}
        onFocus={onTry}
        onBlur={onLeave}
        onClick={onPlace}
      >
        <span className="flex w-full gap-2">
          <SwatchPicture label={`Scribble of ${preset.name}`} swatch={swatch} draw={drawScribble} {...SCRIBBLE} />
          <span className="flex h-[44px] min-w-0 flex-1 flex-col overflow-hidden">
            <span className="flex shrink-0 items-baseline gap-2">
              <span
                className={`cond line-clamp-2 min-w-0 font-semibold text-[13px] leading-[15px] ${triedOn ? "text-primary" : ""}`}
              >
                {preset.name}
              </span>
              <span className="num ml-auto shrink-0 text-(--graphite) text-[11px]">{size}</span>
            </span>
            <span
              aria-hidden="true"
              className="cond line-clamp-2 shrink-0 pr-5 text-(--graphite) text-xs leading-[14px]"
            >
              {preset.line}
            </span>
          </span>
        </span>
        <SwatchPicture
          label={`Waveform of ${preset.name}`}
          swatch={swatch}
          width={width - PADDING_PX}
          height={WAVE_PX}
          draw={drawWaves}
        />
        <span className="cond truncate text-(--graphite) text-[11px] leading-[14px]">{tags}</span>
      </button>
      <CardFoot entry={entry} name={preset.name} marked={marked} clip={clip} />
    </div>
  );
}

type CardFootProps = { entry: PresetEntry; name: string; marked: boolean; clip: Clip | undefined };

/** Compared with others, and what else is done with it. */
function CardFoot({ entry, name, marked, clip }: CardFootProps) {
  return (
    <span className="absolute right-1 bottom-0.5 flex items-center gap-1.5">
      <label
        className="cond flex items-center gap-1 text-(--graphite) text-[11px]"
        title="Compare up to 4 side by side, in place of the Set view"
      >
        <input
          type="checkbox"
          className="tick"
          aria-label={`Compare ${name}`}
          checked={marked}
          onChange={() => toggleMark(entry.key)}
        />
        compare
      </label>
      <CardMenu entry={entry} clip={clip} />
    </span>
  );
}

function BrokenCard({ entry }: { entry: PresetEntry }) {
  return (
    <div className="relative rounded-sm border border-error px-2 py-1 text-xs">
      <b className="cond block">A preset that cannot be read</b>
      <span className="line-clamp-4 break-words" title={entry.problem ?? ""}>
        {entry.problem}
      </span>
      <span className="absolute right-1 bottom-0.5">
        <CardMenu entry={entry} clip={undefined} />
      </span>
    </div>
  );
}
