import type { Layer, Param } from "../../api/types";
import { fieldsOf, sourceFacts, valueAt } from "../../shared/fields";
import { ParamControl } from "../../shared/number";
import { ChoiceField, SwitchField } from "./ChoiceField";
import { CycleDrawing } from "./CycleDrawing";
import { useMoving } from "./useMoving";

/** The form of a layer's source: a field for each that the server tells of, and what is drawn by hand. */
export function SourceForm({ layer }: { layer: Layer }) {
  const moving = useMoving(layer.id);
  const { source } = layer;
  // What is in the axes' own units makes an axis move; of all other sources only axes that move have anything to set.
  const { absolute } = sourceFacts(source);
  const byHand = source.kind === "keys";
  const shown = fieldsOf(source).filter(({ axis }) => !axis || absolute || moving.includes(axis));
  if (shown.length === 0) return null;
  return (
    <div className="grid grid-cols-4 gap-x-3 gap-y-1">
      {byHand && (
        <p className="col-span-4 text-(--graphite) text-xs">
          Added on top of everything. A change sets a key at the present frame.
        </p>
      )}
      {shown.map((look) => {
        const at = `layer:${layer.id}.source.${look.field}`;
        const value = valueAt(source, look.field);
        if (look.kind === "number")
          return <ParamControl key={at} stacked at={at} param={value as Param} look={look} keys={byHand} />;
        if (look.kind === "choice")
          return <ChoiceField key={at} at={at} look={look} value={value as string | number} />;
        return <SwitchField key={at} at={at} look={look} value={value === true} />;
      })}
      <CycleDrawing layer={layer} />
    </div>
  );
}
