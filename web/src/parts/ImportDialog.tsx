import { useState } from "react";
import type { State } from "../api/types";
import { Dialog } from "../shared/Dialog";
import { serverTables } from "../stores/serverTables";
import { CameraChoice } from "./CameraChoice";
import { Complaint } from "./Complaint";
import { CutOffer } from "./CutOffer";
import { ImportButtons } from "./ImportButtons";
import { ReadingChoice } from "./ReadingChoice";
import { closeImport, useImport } from "./useImport";

const fpsOf = ({ num, den }: { num: number; den: number }) => (den === 1 ? String(num) : `${num}/${den}`);

/** Chooses a file, then a camera, then where its path goes: into this shot, or into a new one. */
export function ImportDialog({ state, projectSlug }: { state: State | null; projectSlug: string }) {
  const bringing = useImport(state, projectSlug);
  const { found, camera, setCamera, cut, readCut, conform, problem, read } = bringing;
  const [typed, setFps] = useState<string | null>(null);
  // The file's own rate counts until another is typed.
  const fps = typed ?? found?.fps ?? fpsOf((state?.document ?? serverTables().forms.fresh).fps);
  return (
    <Dialog title="Import a camera path" onClose={closeImport}>
      <p className="mb-3 text-sm">
        A camera from a GLB or glTF file, including animated parents, or a CSV with one pose per row; or a shot that was
        exported as .shot.json; or a cut (.otio), whose clip of this shot gives its range and speed.
      </p>
      <input
        type="file"
        aria-label="Camera path file"
        accept=".glb,.gltf,.usda,.usdc,.usdz,.csv,.json,.otio"
        className="file-input file-input-sm mb-3 w-full"
        onChange={(event) => {
          const file = event.target.files?.[0];
          if (file) void read(file);
        }}
      />
      <Complaint text={problem} />
      {found?.shot && (
        <p className="mb-3 text-sm">
          {found.file.name} is the shot “{found.shot}”. It opens as a new shot, with its own move, layers and lens.
        </p>
      )}
      {found?.shot === null && (
        <>
          <CameraChoice found={found} camera={camera} fps={fps} onCamera={setCamera} onFps={setFps} />
          <ReadingChoice {...bringing} />
        </>
      )}
      {cut ? (
        <CutOffer cut={cut} onHandles={(frames) => readCut(cut.file, frames)} onTake={() => conform(cut)} />
      ) : (
        <ImportButtons {...bringing} inShot={state !== null} fps={fps} />
      )}
    </Dialog>
  );
}
