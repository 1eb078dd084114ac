/** THE TABLE of source forms: another source adds a row here when it has more than plain fields. */
import type { ComponentType } from "react";
import type { Layer } from "../../api/types";
import { fieldsOf, type Source } from "../../shared/sourceFields";
import { CycleDrawing } from "./CycleDrawing";
import { HandKeys } from "./HandKeys";
import { SourceForm } from "./SourceForm";
import { WavePhases } from "./WavePhases";

const BESIDES: Partial<Record<Source["kind"], ComponentType<{ layer: Layer }>>> = {
  wave: WavePhases,
  cycle: CycleDrawing,
  keys: HandKeys,
};

/** The form of a layer's source. */
export function FormOfSource({ layer }: { layer: Layer }) {
  const { source } = layer;
  const Besides = BESIDES[source.kind];
  return (
    <SourceForm layer={layer} source={source} fields={fieldsOf(source)}>
      {Besides && <Besides layer={layer} />}
    </SourceForm>
  );
}
