import { useStore } from "zustand";
import { fitGlass } from "../../acts/mounts";
import type { Shot } from "../../api/types";
import { Fields } from "../../parts/Fields";
import { limitsOf } from "../../shared/fields";
import { NumberField } from "../../shared/number";
import { commit } from "../../stores/editing";
import { motion } from "../../stores/motion";
import { serverTables } from "../../stores/serverTables";
import { transport } from "../../stores/transport";
import { OnOff } from "./OnOff";

/** Effects of the lens: distortion, and breathing with the focus. */
export function GlassForm({ shot }: { shot: Shot }) {
  const { glass } = shot;
  return (
    <section className="flex flex-col gap-2" aria-label="Glass of the lens">
      <OnOff
        title="distortion and breathing"
        hint="How this lens bends the picture, and how its focal length changes with the focus distance"
        on={Boolean(glass)}
        onChange={fitGlass}
      />
      {glass ? (
        <>
          <div className="grid grid-cols-4 gap-x-3">
            <Fields at="shot.glass" document={glass} looks={serverTables().forms.glass} />
          </div>
          <Corner />
        </>
      ) : (
        <p className="text-(--graphite) text-xs">
          Straight lines stay straight: a shaken picture moves as one piece. With distortion it swims at its edges.
        </p>
      )}
    </section>
  );
}

/** Its effect at the corners of the picture, and on the focal length. */
function Corner() {
  const corner = useStore(motion, (state) => state.readings?.corner ?? null);
  const [least, most] = limitsOf("bend_corner.percent");
  if (!corner) return null;
  const { share, px, breath } = corner;
  return (
    <div className="flex items-center gap-1 text-xs" data-testid="corner">
      <span className="cond text-(--graphite)">at the corners</span>
      <NumberField
        label="Distortion at the corners"
        value={share * 100}
        unit="%"
        step={0.02}
        least={least}
        most={most}
        digits={2}
        className="border-base-300 border-b"
        onCommit={(percent) => void commit({ type: "bend_corner", frame: transport.getState().frame, percent })}
      />
      <span className="num">{px.toFixed(0)} px</span>
      <span className="cond ml-2 text-(--graphite)">focal length by breathing</span>
      <span className="num">× {breath.toFixed(4)}</span>
    </div>
  );
}
