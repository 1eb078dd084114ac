import { ArrowLeftRight, X } from "lucide-react";
import { bakeBlend, flattenBlend } from "../../acts/clips";
import type { Blend, Clip, Param } from "../../api/types";
import { ChoiceField } from "../../parts/ChoiceField";
import { CornerNumber } from "../../parts/CornerNumber";
import { ParamControl } from "../../shared/number";
import { commit } from "../../stores/editing";
import { serverTables } from "../../stores/serverTables";
import { BlendPad } from "./BlendPad";

/** A clip that is a blend: its pad, how it blends, the numbers of its place, its corners. */
export function BlendSection({ clip, blend }: { clip: Clip; blend: Blend }) {
  const at = `clip:${clip.id}.blend`;
  const looks = serverTables().forms.blend;
  const method = looks.find(({ kind }) => kind !== "number");
  const line = blend.corners.length === 2;
  const numbers = looks.filter(({ kind, field }) => kind === "number" && !(line && field === "up_percent"));
  return (
    <section aria-label="Blend" className="flex gap-3">
      <BlendPad clip={clip} blend={blend} />
      <div className="flex min-w-0 flex-1 flex-col gap-1.5">
        {method && (
          <div title={method.hint}>
            <ChoiceField at={`${at}.method`} look={method} value={blend.method} />
          </div>
        )}
        <div className="grid grid-cols-2 gap-x-2">
          {numbers.map((look) => (
            <ParamControl
              key={look.field}
              stacked
              live
              at={`${at}.${look.field}`}
              param={blend[look.field as "across_percent" | "up_percent"] as Param}
              look={look}
            />
          ))}
        </div>
        <ul aria-label="Corners" className="cond flex flex-col text-[13px]">
          {blend.corners.map((corner, n) => (
            <CornerRow key={corner.id} clip={clip} blend={blend} n={n} />
          ))}
        </ul>
        <span className="flex gap-1">
          <button
            type="button"
            className="btn btn-xs"
            title="Bake blend at playhead; removes the blend"
            onClick={bakeBlend}
          >
            Bake to one clip
          </button>
          <button
            type="button"
            className="btn btn-xs"
            title="Flatten to keyed clip: weights and numbers become keys"
            onClick={flattenBlend}
          >
            Flatten
          </button>
        </span>
      </div>
    </section>
  );
}

function CornerRow({ clip, blend, n }: { clip: Clip; blend: Blend; n: number }) {
  const corner = blend.corners[n];
  const next = blend.corners[n + 1];
  if (!corner) return null;
  const layers = clip.layers.filter((each) => each.corner === corner.id).length;
  return (
    <li className="flex items-center gap-1" data-corner={corner.id}>
      <CornerNumber blend={blend} corner={corner.id} />
      <span className="min-w-0 truncate" title={corner.name}>
        {corner.name}
      </span>
      <span className="shrink-0 text-(--graphite) text-xs">{layers === 1 ? "1 layer" : `${layers} layers`}</span>
      <span className="ml-auto" />
      {next && (
        <button
          type="button"
          className="btn btn-ghost btn-xs btn-square"
          aria-label={`Swap ${corner.name} with ${next.name}`}
          title={`Swap with “${next.name}”`}
          onClick={() => void commit({ type: "swap_corners", clip: clip.id, corner: corner.id, other: next.id })}
        >
          <ArrowLeftRight size={12} className="rotate-90" />
        </button>
      )}
      <button
        type="button"
        className="btn btn-ghost btn-xs btn-square"
        aria-label={`Remove corner ${corner.name}`}
        title={
          blend.corners.length === 2
            ? "Remove it with its layers; the other is a plain clip then"
            : "Remove it with its layers"
        }
        onClick={() => void commit({ type: "remove_corner", clip: clip.id, corner: corner.id })}
      >
        <X size={12} />
      </button>
    </li>
  );
}
