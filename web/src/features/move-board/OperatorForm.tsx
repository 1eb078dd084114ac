import { useState } from "react";
import { fit, holdFraming } from "../../acts/mounts";
import type { Mount, Shot } from "../../api/types";
import { Fields } from "../../parts/Fields";
import { holding, limitsOf } from "../../shared/fields";
import { NumberField } from "../../shared/number";
import { commit } from "../../stores/editing";
import { serverTables } from "../../stores/serverTables";
import { transport } from "../../stores/transport";
import { FollowForm } from "./FollowForm";
import { FramingReport } from "./FramingReport";
import { OnOff } from "./OnOff";

/** The operator who aims a mount at the subject, and the hold on the framing. */
export function OperatorForm({ shot, mount }: { shot: Shot; mount: Mount }) {
  const { operator } = mount;
  const elsewhere = shot.mounts.find(({ id, operator: aims }) => aims && id !== mount.id);
  if (elsewhere && !operator)
    return (
      <p className="text-xs">
        An operator aims “{elsewhere.name}” already. A camera has one operator; remove that one first.
      </p>
    );
  return (
    <section className="flex flex-col gap-2" aria-label="Operator">
      {!shot.subject && (!operator || operator.target.kind === "subject") && (
        <p className="text-xs" role="alert">
          No subject is marked, so there is nothing to aim at: choose one under pose, or press P.
        </p>
      )}
      <OnOff
        title="Operator"
        hint="A person who reacts late, moves the weight of the camera, and tolerates small errors"
        on={Boolean(operator)}
        onChange={(on) => fit("operator", on)}
      >
        {operator && <ToKeys mount={mount.id} />}
      </OnOff>
      {operator && (
        <>
          <FollowForm shot={shot} at={`mount:${mount.id}.operator`} follows={operator} />
          <Places at={`mount:${mount.id}.operator`} />
          <div className="grid grid-cols-4 gap-x-3 gap-y-1">
            <Fields
              at={`mount:${mount.id}.operator`}
              document={operator}
              looks={holding(serverTables().forms.operator, operator)}
            />
          </div>
        </>
      )}
      <FramingReport mount={mount.id} />
      <Hold shot={shot} />
    </section>
  );
}

const USUAL_PX = 2;

/** Keys instead of the operator, as few as possible within a chosen tolerance. */
function ToKeys({ mount }: { mount: string }) {
  const [within, setWithin] = useState(USUAL_PX);
  const [least, most] = limitsOf("keys_from_operator.tolerance_px");
  return (
    <span className="ml-auto flex items-center gap-1 text-xs">
      <button
        type="button"
        className="btn btn-xs"
        title="Keys of pan and tilt where the operator acts, in place of the operator; a wider tolerance takes fewer keys"
        onClick={() => void commit({ type: "keys_from_operator", mount, tolerance_px: within })}
      >
        Bake to keys
      </button>
      within
      <NumberField
        label="Tolerance of the keys"
        value={within}
        unit="px"
        step={0.05}
        least={least}
        most={most}
        digits={1}
        scales
        className="border-base-300 border-b"
        onCommit={setWithin}
      />
    </span>
  );
}

/** Places on screen by name: where the subject should sit, from this frame on where they are keyed. */
function Places({ at }: { at: string }) {
  return (
    <fieldset className="flex flex-wrap gap-1" aria-label="Places by name">
      {serverTables().forms.places.map(({ title, across_percent, up_percent }) => (
        <button
          key={title}
          type="button"
          className="btn btn-xs"
          title="Framing target; or drag the mark in the Viewfinder"
          onClick={() =>
            void commit({
              type: "set_numbers",
              frame: transport.getState().frame,
              key: false,
              values: [
                { at: `${at}.across_percent`, value: across_percent },
                { at: `${at}.up_percent`, value: up_percent },
              ],
            })
          }
        >
          {title}
        </button>
      ))}
    </fieldset>
  );
}

const PLACE = "place on screen";

/** Removes the slow drift of the subject, with any operator. */
function Hold({ shot }: { shot: Shot }) {
  const { hold } = shot;
  // An operator defines the framing target.
  const aimed = shot.mounts.some(({ operator }) => operator);
  const looks = serverTables().forms.hold.filter(({ group }) => !aimed || group !== PLACE);
  return (
    <section className="flex flex-col gap-1 border-base-300 border-t pt-2" aria-label="Hold framing">
      <OnOff
        title="hold framing"
        hint="Removes slow drift, keeps the fast shake"
        on={Boolean(hold)}
        onChange={holdFraming}
      />
      {hold && !aimed && <FollowForm shot={shot} at="shot.hold" follows={hold} />}
      {hold && (
        <div className="grid grid-cols-4 gap-x-3">
          <Fields at="shot.hold" document={hold} looks={looks} />
        </div>
      )}
    </section>
  );
}
