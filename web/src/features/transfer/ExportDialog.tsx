import { useState } from "react";
import { useStore } from "zustand";
import type { State } from "../../api/types";
import { Dialog } from "../../shared/Dialog";
import { filming } from "../../stores/movie";
import { serverTables } from "../../stores/serverTables";
import { view } from "../../stores/view";
import { FilePart } from "./FilePart";
import { FormatChoice } from "./FormatChoice";
import { MoviePart } from "./MoviePart";

const FORMAT = "zittern.export.format";

const close = () => view.setState({ dialog: null });

/** Chooses a format, shows progress, can be cancelled, hands over the file. */
export function ExportDialog({ state }: { state: State }) {
  const [format, setFormat] = useState(localStorage.getItem(FORMAT) ?? "glb");
  const [writing, setWriting] = useState(false);
  const drawing = useStore(filming, ({ movie, problem }) => movie?.status === "drawing" && !problem);
  const kind = serverTables().movies.find(({ name }) => name === format);
  const begun = () => localStorage.setItem(FORMAT, format);
  return (
    <Dialog title="Export the motion" onClose={close}>
      <FormatChoice value={format} disabled={writing || (kind !== undefined && drawing)} onChange={setFormat} />
      {kind ? (
        <MoviePart state={state} kind={kind} drawing={drawing} onBegun={begun} />
      ) : (
        <FilePart
          state={state}
          format={format}
          onFormat={setFormat}
          onBegun={begun}
          onWriting={setWriting}
          onDone={close}
        />
      )}
    </Dialog>
  );
}
