import { useEffect, useRef, useState } from "react";
import { isPicture } from "../acts/plates";
import { importPresets } from "../stores/presets";
import { openImport } from "../stores/view";

const PRESET_ENDING = ".preset.json";

type Taker = (files: File[], on: EventTarget | null) => void;

/** A file dragged onto the page opens the import; presets are stored immediately. onPictures, onFiles: handlers for pictures, and for several other files, with the drop position. */
export function DropZone({ onPictures, onFiles }: { onPictures: Taker; onFiles: Taker }) {
  const [over, setOver] = useState(false);
  const takers = useRef({ onPictures, onFiles });
  takers.current = { onPictures, onFiles };
  useEffect(() => {
    const isFile = (event: DragEvent) => event.dataTransfer?.types.includes("Files") ?? false;
    const drag = (event: DragEvent) => {
      if (!isFile(event)) return;
      event.preventDefault();
      setOver(true);
    };
    const leave = (event: DragEvent) => {
      if (event.relatedTarget === null) setOver(false);
    };
    const drop = (event: DragEvent) => {
      if (!isFile(event)) return;
      event.preventDefault();
      setOver(false);
      const files = [...(event.dataTransfer?.files ?? [])];
      const presetFiles = files.filter(({ name }) => name.toLowerCase().endsWith(PRESET_ENDING));
      if (presetFiles.length) void importPresets(presetFiles);
      const pictures = files.filter(isPicture);
      if (pictures.length) takers.current.onPictures(pictures, event.target);
      const otherFiles = files.filter((file) => !presetFiles.includes(file) && !pictures.includes(file));
      if (otherFiles.length > 1) takers.current.onFiles(otherFiles, event.target);
      else if (otherFiles[0]) openImport(otherFiles[0]);
    };
    // A form that takes files itself keeps the drop from coming here; the curtain has to go all the same.
    const onLeave = () => setOver(false);
    window.addEventListener("drop", onLeave, true);
    window.addEventListener("dragover", drag);
    window.addEventListener("dragleave", leave);
    window.addEventListener("drop", drop);
    return () => {
      window.removeEventListener("drop", onLeave, true);
      window.removeEventListener("dragover", drag);
      window.removeEventListener("dragleave", leave);
      window.removeEventListener("drop", drop);
    };
  }, []);
  if (!over) return null;
  return (
    <div className="pointer-events-none fixed inset-3 z-40 grid place-items-center rounded-lg border-2 border-accent border-dashed bg-base-100/85">
      <p className="text-lg text-white">
        Drop a GLB, glTF, OpenUSD or CSV to import its camera path, a .shot.json to open it, a .preset.json to keep it,
        or pictures to hang them as plates
      </p>
    </div>
  );
}
