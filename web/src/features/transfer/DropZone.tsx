import { useEffect, useState } from "react";
import { openImport } from "../../stores/view";

/** A file dragged onto the page opens the import. */
export function DropZone() {
  const [over, setOver] = useState(false);
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
      const file = event.dataTransfer?.files[0];
      if (file) openImport(file);
    };
    // A form that takes files itself keeps the drop from coming here; the curtain has to go all the same.
    const gone = () => setOver(false);
    window.addEventListener("drop", gone, true);
    window.addEventListener("dragover", drag);
    window.addEventListener("dragleave", leave);
    window.addEventListener("drop", drop);
    return () => {
      window.removeEventListener("drop", gone, true);
      window.removeEventListener("dragover", drag);
      window.removeEventListener("dragleave", leave);
      window.removeEventListener("drop", drop);
    };
  }, []);
  if (!over) return null;
  return (
    <div className="pointer-events-none fixed inset-3 z-40 grid place-items-center rounded-lg border-2 border-accent border-dashed bg-base-100/85">
      <p className="text-lg text-white">
        Drop a GLB, glTF or CSV to bring in its camera path, or a .shot.json to open it
      </p>
    </div>
  );
}
