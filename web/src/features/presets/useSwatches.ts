import { useEffect } from "react";
import { useStore } from "zustand";
import { createStore } from "zustand/vanilla";
import { client, take } from "../../api/client";
import type { PresetEntry, Swatch } from "../../api/types";
import { complain } from "../../stores/notes";
import { openShot } from "../../stores/openShot";

/** Pictures of presets on the open shot, by preset; `of` names the preset's content, and the shot's revision and variant, that each was made for. */
const swatches = createStore<Record<string, { of: string; swatch: Swatch }>>(() => ({}));

const SOON_MS = 40;

/** Has the pictures of the presets in sight made, on the shot as it stands. */
export function useSwatchesOf(entries: PresetEntry[]): void {
  const slug = useStore(openShot, (each) => each.state?.slug);
  const stands = useStore(openShot, ({ state }) => `${state?.revision} ${state?.variant}`);
  const wanted = entries.map(({ key, content }) => `${key} ${content} ${slug} ${stands}`).join("\n");
  useEffect(() => {
    if (!slug || !wanted) return;
    const lines = wanted.split("\n").map((of) => ({ key: of.split(" ", 1)[0] ?? "", of }));
    const missing = lines.filter(({ key, of }) => swatches.getState()[key]?.of !== of);
    if (!missing.length) return;
    const soon = window.setTimeout(async () => {
      try {
        const body = { presets: missing.map(({ key }) => key) };
        const made = await take<Swatch[]>(
          client.POST("/api/shots/{shot}/swatches", { params: { path: { shot: slug } }, body }),
        );
        const stamps = new Map(missing.map(({ key, of }) => [key, of]));
        swatches.setState(
          Object.fromEntries(made.map((swatch) => [swatch.key, { of: stamps.get(swatch.key) ?? "", swatch }])),
        );
      } catch (error) {
        complain(error);
      }
    }, SOON_MS);
    return () => clearTimeout(soon);
  }, [slug, wanted]);
}

/** The picture of a preset, the last one made until there is a newer. */
export function useSwatch(key: string): Swatch | null {
  return useStore(swatches, (all) => all[key]?.swatch ?? null);
}
