import type { Found } from "./useImport";

type CameraChoiceProps = {
  found: Found;
  camera: string;
  fps: string;
  onCamera: (name: string) => void;
  onFps: (text: string) => void;
};

/** The camera of a file, and the frame rate of a new shot from it. */
export function CameraChoice({ found, camera, fps, onCamera, onFps }: CameraChoiceProps) {
  return (
    <div className="mb-3 grid grid-cols-2 gap-3 text-sm">
      <label className="flex flex-col gap-1">
        Camera in {found.file.name}
        <select className="select select-sm w-full" value={camera} onChange={(event) => onCamera(event.target.value)}>
          {found.cameras.map((name) => (
            <option key={name}>{name}</option>
          ))}
        </select>
      </label>
      <label className="flex flex-col gap-1">
        Frames per second (new shot)
        <input className="input input-sm w-full" value={fps} onChange={(event) => onFps(event.target.value)} />
      </label>
      {found.notices.map((text) => (
        <p key={text} className="col-span-2 text-xs">
          {text}
        </p>
      ))}
    </div>
  );
}
