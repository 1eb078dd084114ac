import type { Found, Into } from "./useImport";

type ImportButtonsProps = {
  found: Found | null;
  asSet: File | null;
  working: boolean;
  inShot: boolean;
  fps: string;
  playIn: (file: File) => Promise<void>;
  bringIn: (found: Found, into: Into, fps: string) => Promise<void>;
};

const RIDES = "Adds the path to the existing move, relative to its first pose";

/** Destination of an import. */
export function ImportButtons(props: ImportButtonsProps) {
  const { found, asSet, working, inShot, fps, playIn, bringIn } = props;
  const into = (where: Into, text: string, hint?: string) => (
    <button
      type="button"
      className={`btn btn-sm ${where === "new" ? "btn-primary" : "btn-neutral"}`}
      disabled={!found || working || (where !== "new" && found.shot !== null)}
      title={hint}
      onClick={() => found && void bringIn(found, where, fps)}
    >
      {text}
    </button>
  );
  return (
    <div className="flex justify-end gap-2">
      {inShot && asSet && (
        <button
          type="button"
          className="btn btn-sm btn-neutral mr-auto"
          disabled={working}
          onClick={() => void playIn(asSet)}
        >
          Use as the set of this shot
        </button>
      )}
      {inShot && into("add", "Layer onto this move", RIDES)}
      {inShot && into("replace", "Replace it", "Replaces the move; the layers stay")}
      {into("new", working ? "Reading …" : found?.shot ? "Open as a new shot" : "Make a new shot")}
    </div>
  );
}
