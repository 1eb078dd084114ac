import type { Tables } from "../../api/types";
import { NumberField } from "../../shared/number";
import { NumberOption, OptionField } from "./OptionField";
import type { ExportSettings } from "./useExport";

const SAMPLES = [
  { value: "1", title: "every frame" },
  { value: "0.5", title: "every ½ frame" },
  { value: "0.25", title: "every ¼ frame" },
];
const REDUCED = { value: "reduced", title: "few, on curves" };
const NODES = [
  { value: "rig", title: "mounts and layers" },
  { value: "camera", title: "one camera" },
];
const KEYS = "zittern.export.keys";
const LEAST_PX = 0.01;
const MOST_PX = 100;

/** A format that can be written. */
export type Format = Tables["formats"][number];

/** Spacing of the keys, tolerance of those on curves, and nodes. */
type Keys = { at: string; px: number; nodes: string };

const EVERY_FRAME: Keys = { at: "1", px: 0.5, nodes: "rig" };

/** The settings of the last export. */
export function rememberedKeys(): Keys {
  try {
    return { ...EVERY_FRAME, ...JSON.parse(localStorage.getItem(KEYS) ?? "{}") };
  } catch {
    return EVERY_FRAME;
  }
}

export const rememberKeys = (keys: Keys) => localStorage.setItem(KEYS, JSON.stringify(keys));

/** Returns the settings that a format has. */
export function settingsOf(
  keys: Keys,
  format: Format | undefined,
): Pick<ExportSettings, "step" | "reduce" | "one_camera"> {
  const reduced = format?.has_curves && keys.at === REDUCED.value;
  const one_camera = (format?.has_nodes ?? false) && keys.nodes === "camera";
  return { step: Number(keys.at) || 1, reduce: reduced ? `${keys.px}px` : null, one_camera };
}

type KeyFieldsProps = {
  keys: Keys;
  format: Format | undefined;
  disabled: boolean;
  onChange: (keys: Keys) => void;
};

/** Fields for the keys of a file and its nodes. */
export function KeyFields({ keys, format, disabled, onChange }: KeyFieldsProps) {
  const { has_nodes: hasNodes = false, has_curves: hasCurves = false } = format ?? {};
  const reduced = keys.at === REDUCED.value;
  return (
    <>
      <OptionField
        title="Keys"
        value={hasCurves || !reduced ? keys.at : "1"}
        options={hasCurves ? [...SAMPLES, REDUCED] : SAMPLES}
        onChange={(at) => onChange({ ...keys, at })}
      />
      {hasNodes && (
        <OptionField
          title="Nodes"
          value={keys.nodes}
          options={NODES}
          onChange={(nodes) => onChange({ ...keys, nodes })}
        />
      )}
      {hasCurves && reduced && (
        <NumberOption
          title="Tolerance"
          hint="Largest shift of the picture corners (px), at the distance of the subject"
        >
          <NumberField
            label="Tolerance"
            value={keys.px}
            unit="px"
            step={0.05}
            least={LEAST_PX}
            most={MOST_PX}
            digits={2}
            disabled={disabled}
            className="w-full text-left!"
            onCommit={(px) => onChange({ ...keys, px })}
          />
        </NumberOption>
      )}
    </>
  );
}
