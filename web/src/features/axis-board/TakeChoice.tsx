import { sendForm } from "../../api/client";
import type { Layer, State } from "../../api/types";
import { COLUMNS } from "../../shared/axes";
import { FileButton } from "../../shared/FileButton";
import { inTurn } from "../../stores/editing";
import { adopt } from "../../stores/openShot";
import { serverTables } from "../../stores/serverTables";

/** Lets a layer play a take that ships, or one from a file. */
function play(layer: string, take: string | File): Promise<void> {
  return inTurn(async (state) => {
    const path = `/api/shots/${state.slug}/takes`;
    const fields = { base_revision: String(state.revision), layer };
    adopt(
      typeof take === "string"
        ? await sendForm<State>(`${path}/shipped`, { ...fields, name: take }, "")
        : await sendForm<State>(path, { ...fields, file: take }, take.name),
    );
  });
}

/** The recording of a take layer: a shipped one, or a file of samples. */
export function TakeChoice({ layer }: { layer: Layer }) {
  if (layer.source.kind !== "take") return null;
  const name = layer.source.recording?.name ?? "";
  return (
    <div className="cond col-span-4 flex flex-wrap items-center gap-1 text-xs" data-testid="take">
      <span className="text-(--graphite)">{name ? `plays “${name}”` : "No take chosen"}</span>
      <span className="ml-auto" />
      {serverTables().takes.map((take) => (
        <button
          key={take}
          type="button"
          className="btn btn-xs"
          title="A take that ships with Zittern"
          onClick={() => void play(layer.id, take)}
        >
          {take.replaceAll("-", " ")}
        </button>
      ))}
      <FileButton
        label="File of a take"
        title={`CSV or JSON: time_s and some of ${COLUMNS.join(", ")}`}
        accept=".csv,.json,text/csv,application/json"
        onFile={(file) => void play(layer.id, file)}
      >
        From a file …
      </FileButton>
    </div>
  );
}
