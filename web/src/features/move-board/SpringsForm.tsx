import { fit } from "../../acts/mounts";
import type { Mount } from "../../api/types";
import { Fields } from "../../parts/Fields";
import { holding } from "../../shared/fields";
import { serverTables } from "../../stores/serverTables";
import { OnOff } from "./OnOff";

/** The springs between a mount and what carries it. */
export function SpringsForm({ mount }: { mount: Mount }) {
  const { springs } = mount;
  return (
    <section className="flex flex-col gap-2" aria-label="Springs">
      <OnOff
        title="Spring-mounted"
        hint="A mass on springs and dampers, carried by its parent: it lags, overshoots and softens fast motion"
        on={Boolean(springs)}
        onChange={(on) => fit("springs", on)}
      />
      {springs ? (
        <div className="grid grid-cols-4 gap-x-3 gap-y-1">
          <Fields
            at={`mount:${mount.id}.springs`}
            document={springs}
            looks={holding(serverTables().forms.springs, springs)}
          />
        </div>
      ) : null}
      <p className="text-(--graphite) text-xs">
        {springs
          ? "Filters motion from the mounts and layers below (on a layer's board: “applies to”); layers on this mount are not filtered. The first mount stands on the ground, so springs on it do nothing: add a mount and give that the springs."
          : "Rigid: follows its parent."}
      </p>
    </section>
  );
}
