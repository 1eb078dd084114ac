import { fit } from "../../acts/mounts";
import type { Mount } from "../../api/types";
import { Fields } from "../../parts/Fields";
import { holding } from "../../shared/fields";
import { facts } from "../../stores/facts";
import { OnOff } from "./OnOff";

/** The springs between a mount and what carries it. */
export function GiveForm({ mount }: { mount: Mount }) {
  const { give } = mount;
  return (
    <section className="flex flex-col gap-2" aria-label="Give">
      <OnOff
        title="hangs in springs"
        hint="A mass on springs and dampers that what is below carries: it lags, overshoots, and softens what is fast"
        on={Boolean(give)}
        onChange={(on) => fit("give", on)}
      />
      {give ? (
        <div className="grid grid-cols-4 gap-x-3 gap-y-1">
          <Fields at={`mount:${mount.id}.give`} document={give} looks={holding(facts().forms.give, give)} />
        </div>
      ) : null}
      <p className="text-(--graphite) text-xs">
        {give
          ? "Softens what goes on below it: layers that shake a mount nearer to the ground (on a layer's board: “shakes”) come through its springs, layers on this mount do not."
          : "Rigid: it goes exactly where what carries it goes."}
      </p>
    </section>
  );
}
