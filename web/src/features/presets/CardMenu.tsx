import { Ellipsis } from "lucide-react";
import type { Clip, PresetEntry } from "../../api/types";
import { download } from "../../shared/download";
import { Menu, type MenuItem } from "../../shared/Menu";
import { openShot } from "../../stores/openShot";
import { fillPreset, removePreset } from "../../stores/presets";
import { openPresetForm } from "../../stores/view";

/** Actions on a preset. Shipped ones cannot be changed. */
export function CardMenu({ entry, clip }: { entry: PresetEntry; clip: Clip | undefined }) {
  const name = entry.preset?.name ?? entry.key;
  const items: MenuItem[] = [
    { id: "export", content: "Export as a file", run: () => download(`/api/presets/${entry.key}/file`) },
  ];
  if (entry.own) {
    if (entry.preset)
      items.unshift({
        id: "change",
        content: "Name, line, tags, length …",
        run: () => openPresetForm({ change: entry.key }),
      });
    if (entry.preset && clip)
      items.push({
        id: "fill",
        content: `Overwrite with “${clip.name}”`,
        run: () => void fillPreset(entry, openShot.getState().state?.slug ?? "", clip.id),
      });
    items.push({ id: "delete", content: "Delete", run: () => void removePreset(entry) });
  }
  return (
    <Menu
      label={`More of preset ${name}`}
      button={<Ellipsis size={13} />}
      buttonClass="rounded-sm px-0.5 text-(--graphite) hover:bg-base-300/60"
      listClass="w-56 bg-base-100 text-[13px]"
      items={items}
    />
  );
}
