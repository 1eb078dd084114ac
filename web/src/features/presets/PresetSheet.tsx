import { useEffect, useState } from "react";
import { useStore } from "zustand";
import { client, take } from "../../api/client";
import type { Swatch } from "../../api/types";
import { SheetTitle } from "../../shared/SheetTitle";
import { complain } from "../../stores/notes";
import { clipsOf, openShot } from "../../stores/openShot";
import { cancelPreview, preview, trying } from "../../stores/trying";
import { view } from "../../stores/view";
import { PresetCard } from "./PresetCard";
import { place, placing, type Way } from "./placing";
import { WayChoice } from "./WayChoice";

/** Presets over the lanes: pointing at one tries it on, while it plays too; a click places it. */
export function PresetSheet({ headPx }: { headPx: number }) {
  const swatches = useSwatches();
  const [words, setWords] = useState("");
  const [chosen, setWay] = useState<Way>("new");
  const clip = useSelectedClip();
  const way = clip ? chosen : "new";
  const worn = useStore(trying, ({ command }) => (command && "preset" in command ? command.preset.name : null));
  useEffect(() => cancelPreview, []);
  const found = swatches.filter((each) => fits(each, words));
  return (
    <div className="flex min-h-0 flex-1 border-base-300 border-t" data-testid="presets">
      <div
        className="flex shrink-0 flex-col gap-2 overflow-y-auto border-base-300 border-r px-3 py-1.5"
        style={{ width: headPx }}
      >
        <SheetTitle title="Presets" />
        <input
          type="search"
          className="input input-xs w-full"
          aria-label="Search presets"
          placeholder="walk, water, calm …"
          value={words}
          onChange={(event) => setWords(event.target.value)}
        />
        <WayChoice clip={clip} way={way} onChoose={setWay} />
      </div>
      <div
        role="toolbar"
        aria-label="Presets"
        onKeyDown={stepCards}
        className="grid min-w-0 flex-1 auto-rows-min grid-cols-[repeat(auto-fill,minmax(198px,1fr))] gap-1.5 overflow-y-auto p-2"
      >
        {found.map((each) => {
          const command = () => placing(way, each.preset, clip?.id ?? null);
          return (
            <PresetCard
              key={each.preset.name}
              swatch={each}
              worn={worn === each.preset.name}
              onTry={() => preview(command())}
              onLeave={cancelPreview}
              onPlace={() => place(command())}
            />
          );
        })}
        {swatches.length > 0 && found.length === 0 && (
          <p className="p-2 text-sm">No preset is called or tagged “{words}”.</p>
        )}
      </div>
    </div>
  );
}

const STEPS: Record<string, 1 | -1> = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 };

/** Arrow keys go from card to card. */
function stepCards(event: React.KeyboardEvent<HTMLElement>): void {
  const step = STEPS[event.key];
  if (!step) return;
  const cards = [...event.currentTarget.querySelectorAll("button")];
  cards[cards.indexOf(document.activeElement as HTMLButtonElement) + step]?.focus();
  event.preventDefault();
  event.stopPropagation();
}

function useSwatches(): Swatch[] {
  const [swatches, setSwatches] = useState<Swatch[]>([]);
  useEffect(() => {
    take<Swatch[]>(client.GET("/api/presets")).then(setSwatches, complain);
  }, []);
  return swatches;
}

/** The clip that the board shows, if it shows one. */
function useSelectedClip() {
  const id = useStore(view, (each) => (each.board === "clip" ? each.clip : null));
  const state = useStore(openShot, (each) => each.state);
  return state && id ? clipsOf(state).find((each) => each.id === id) : undefined;
}

function fits({ preset }: Swatch, words: string): boolean {
  const text = [preset.name, preset.line, ...preset.tags].join(" ").toLowerCase();
  return words
    .toLowerCase()
    .split(/\s+/)
    .every((word) => text.includes(word));
}
