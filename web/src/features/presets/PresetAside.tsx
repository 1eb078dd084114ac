import { FileUp, Redo2, Undo2 } from "lucide-react";
import { useRef } from "react";
import { useStore } from "zustand";
import { SheetTitle } from "../../shared/SheetTitle";
import { importPresets, presets, redoPresets, undoPresets } from "../../stores/presets";
import { search, useReplaced } from "./sheetStore";
import { WayChoice } from "./WayChoice";

/** Controls next to the cards: search, placement, undo of preset changes. */
export function PresetAside({ widthPx }: { widthPx: number }) {
  const words = useStore(search, (each) => each.words);
  const clip = useReplaced();
  return (
    <div
      className="flex shrink-0 flex-col gap-1.5 overflow-y-auto border-base-300 border-r px-3 py-1.5"
      style={{ width: widthPx }}
    >
      <SheetTitle title="Presets" />
      <input
        type="search"
        className="input input-xs w-full shrink-0"
        aria-label="Search presets"
        placeholder="walk, water, calm …"
        value={words}
        onChange={(event) => search.setState({ words: event.target.value })}
      />
      <WayChoice clip={clip} />
      <span className="mt-auto" />
      <ShelfButtons />
    </div>
  );
}

function ShelfButtons() {
  const { undoLabel, redoLabel } = useStore(presets);
  const files = useRef<HTMLInputElement>(null);
  return (
    <div className="cond flex items-center gap-1 text-xs">
      <button
        type="button"
        className="btn btn-xs"
        title="Preset files (.preset.json); they can be dropped anywhere too"
        onClick={() => files.current?.click()}
      >
        <FileUp size={12} /> Import
      </button>
      <input
        ref={files}
        type="file"
        accept=".json,application/json"
        multiple
        hidden
        aria-label="Preset files"
        onChange={(event) => {
          void importPresets([...(event.target.files ?? [])]);
          event.target.value = "";
        }}
      />
      <span className="ml-auto" />
      <StepButton label={undoLabel} verb="Undo" icon={<Undo2 size={13} />} run={undoPresets} />
      <StepButton label={redoLabel} verb="Redo" icon={<Redo2 size={13} />} run={redoPresets} />
    </div>
  );
}

type StepButtonProps = { label: string | null; verb: string; icon: React.ReactNode; run: () => unknown };

function StepButton({ label, verb, icon, run }: StepButtonProps) {
  const title = label ? `${verb}: ${label}` : `Nothing to ${verb.toLowerCase()} among the presets`;
  return (
    <button
      type="button"
      className="btn btn-ghost btn-xs btn-square"
      disabled={!label}
      aria-label={title}
      title={title}
      onClick={() => void run()}
    >
      {icon}
    </button>
  );
}
