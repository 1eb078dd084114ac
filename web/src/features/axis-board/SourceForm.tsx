import type { Layer } from "../../api/types";
import { Fields } from "../../parts/Fields";
import { fieldsOf, sourceFacts } from "../../shared/fields";
import { CycleDrawing } from "./CycleDrawing";
import { TakeChoice } from "./TakeChoice";
import { useMoving } from "./useMoving";

/** The form of a layer's source: a field for each entry of the server's table, and hand-drawn curves. */
export function SourceForm({ layer }: { layer: Layer }) {
  const moving = useMoving(layer.id);
  const { source } = layer;
  // Fields in the units of the axes are always shown; fields of other sources only for axes that move.
  const { absolute } = sourceFacts(source);
  const byHand = source.kind === "keys";
  const shown = fieldsOf(source).filter(({ axis }) => !axis || absolute || moving.includes(axis));
  if (shown.length === 0) return null;
  return (
    <div className="grid grid-cols-4 gap-x-3 gap-y-1">
      {byHand && (
        <p className="col-span-4 text-(--graphite) text-xs">
          Added on top of everything. Changes set a key at this frame.
        </p>
      )}
      <Fields at={`layer:${layer.id}.source`} document={source} looks={shown} keys={byHand} />
      <CycleDrawing layer={layer} />
      <TakeChoice layer={layer} />
    </div>
  );
}
