import { useEffect, useMemo } from "react";
import { useStore } from "zustand";
import { useLaneSize } from "../../shared/LaneRow";
import { complain } from "../../stores/notes";
import { loadPresets, presets } from "../../stores/presets";
import { cancelPreview } from "../../stores/preview";
import { found } from "./found";
import { NoneFound } from "./NoneFound";
import { PresetAside } from "./PresetAside";
import { PresetGrid } from "./PresetGrid";
import { search } from "./sheetStore";
import { TagButtons } from "./TagButtons";

/** Presets over the lanes: hovering previews one, also during playback; a click places it; marked ones play side by side. */
export function PresetSheet() {
  const { headPx } = useLaneSize();
  const list = useStore(presets, (each) => each.list);
  const { words, tags } = useStore(search);
  const shown = useMemo(() => found(list, words, tags), [list, words, tags]);
  useEffect(() => {
    const load = () => void loadPresets().catch(complain);
    load();
    // Another window may have saved some.
    window.addEventListener("focus", load);
    return () => {
      window.removeEventListener("focus", load);
      cancelPreview();
    };
  }, []);
  return (
    <div className="flex min-h-0 flex-1 border-base-300 border-t" data-testid="presets">
      <PresetAside widthPx={headPx} />
      <div className="flex min-w-0 flex-1 flex-col">
        <TagButtons list={list} />
        {list.length > 0 && shown.length === 0 ? (
          <NoneFound list={list} words={words} tags={tags} />
        ) : (
          <PresetGrid found={shown} />
        )}
      </div>
    </div>
  );
}
