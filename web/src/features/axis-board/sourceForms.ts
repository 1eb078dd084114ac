/** THE TABLE of source forms: another source adds a component and a row. */
import type { ComponentType } from "react";
import type { Layer } from "../../api/types";
import { BreathForm, DriftForm, TremorForm } from "./BodyForms";
import { CycleForm } from "./CycleForm";
import { KeysForm } from "./KeysForm";
import { NoiseForm } from "./NoiseForm";
import { WaveForm } from "./WaveForm";

export const SOURCE_FORMS: Record<Layer["source"]["kind"], ComponentType<{ layer: Layer }>> = {
  noise: NoiseForm,
  wave: WaveForm,
  drift: DriftForm,
  tremor: TremorForm,
  breath: BreathForm,
  cycle: CycleForm,
  keys: KeysForm,
};
