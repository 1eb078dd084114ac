import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useStore } from "zustand";
import { client, explain, take } from "../../api/client";
import type { Origin, OriginPart } from "../../api/types";
import { Dialog } from "../../shared/Dialog";
import { commit } from "../../stores/editing";
import { openShot } from "../../stores/openShot";
import { view } from "../../stores/view";
import { OriginRow } from "./OriginRow";

const close = () => view.setState({ dialog: null });

/** Whether taking a part from the preset would change anything. */
const differs = ({ how }: OriginPart) => how !== "same";

/** Key of a row: amount and speed have neither layer nor part. */
const nameOf = ({ layer, part }: OriginPart) => part ?? layer ?? "settings";

/** A clip compared with its preset: differences layer by layer, and which of them to revert. */
export function OriginDialog() {
  const clip = useStore(view, (each) => each.clip) ?? "";
  const { origin, problem } = useOrigin(clip);
  const [left, setLeft] = useState<string[]>([]);
  const rows = origin?.parts ?? [];
  const chosenRows = rows.filter((row) => differs(row) && !left.includes(nameOf(row)));
  const takeBack = () => {
    if (!origin?.preset) return;
    void commit({
      type: "take_from_preset",
      clip,
      preset: origin.preset,
      parts: chosenRows.flatMap(({ part }) => part ?? []),
      drop: chosenRows.flatMap(({ part, layer }) => (part === null && layer !== null ? layer : [])),
      settings: chosenRows.some((row) => nameOf(row) === "settings"),
    });
    close();
  };
  return (
    <Dialog title={origin ? `Compare with preset “${origin.name}”` : "Compare with its preset"} onClose={close}>
      {(problem || origin?.problem) && <p role="alert">{problem || origin?.problem}</p>}
      <ul className="flex max-h-[50vh] flex-col gap-1.5 overflow-y-auto text-sm" aria-label="Differences">
        {rows.map((row) => (
          <OriginRow
            key={nameOf(row)}
            row={row}
            taken={chosenRows.includes(row)}
            onTake={(take) =>
              setLeft((now) => (take ? now.filter((each) => each !== nameOf(row)) : [...now, nameOf(row)]))
            }
          />
        ))}
      </ul>
      {origin?.preset && (
        <div className="mt-4 flex items-center gap-3">
          <span className="text-xs">
            {rows.some(differs)
              ? "Checked items revert to the preset; seeds are kept. This can be undone."
              : "The clip matches its preset."}
          </span>
          <button
            type="button"
            className="btn btn-accent btn-sm ml-auto"
            disabled={!chosenRows.length}
            onClick={takeBack}
          >
            Take from the preset
          </button>
        </div>
      )}
    </Dialog>
  );
}

function useOrigin(clip: string): { origin: Origin | null; problem: string } {
  const slug = useStore(openShot, (each) => each.state?.slug) ?? "";
  const params = { path: { shot: slug, clip } };
  const { data, error } = useQuery({
    queryKey: ["origin", slug, clip],
    queryFn: () => take<Origin>(client.GET("/api/shots/{shot}/clips/{clip}/preset", { params })),
    // The presets and the clip may both have changed since the comparison.
    gcTime: 0,
    retry: false,
  });
  return { origin: data ?? null, problem: error ? explain(error) : "" };
}
