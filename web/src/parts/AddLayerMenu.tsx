import { Plus } from "lucide-react";
import { Menu } from "../shared/Menu";
import { commit } from "../stores/editing";
import { selectMade } from "../stores/selection";
import { serverTables } from "../stores/serverTables";

/** Adds a layer of a source, on top of a clip or of the one over the whole shot; each item describes the motion. */
export function AddLayerMenu({ clip, quiet }: { clip?: string; quiet?: boolean }) {
  return (
    <Menu
      label={quiet ? "Add a layer, here always" : "Add layer"}
      button={
        <>
          <Plus size={quiet ? 11 : 13} /> {quiet ? "layer" : "Layer"}
        </>
      }
      buttonClass={
        quiet
          ? "cond flex items-center gap-0.5 rounded-sm px-1 text-(--graphite) text-xs hover:bg-base-300/60"
          : "btn btn-xs"
      }
      listClass="w-72 bg-base-100"
      items={serverTables().sources.map(({ kind, title, imitates }) => ({
        id: kind,
        content: (
          <>
            <span className="cond block font-semibold">{title}</span>
            <span className="block text-(--graphite) text-xs">{imitates}</span>
          </>
        ),
        run: () => void commit({ type: "add_layer", source: kind, clip }, { kept: selectMade }),
      }))}
    />
  );
}
