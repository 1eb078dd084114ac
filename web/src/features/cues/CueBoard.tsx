import { Trash2 } from "lucide-react";
import { useStore } from "zustand";
import { exportCues, importCues, removeCues, setCues } from "../../acts/cues";
import type { Cue } from "../../api/types";
import { FileButton } from "../../shared/FileButton";
import { NameInput } from "../../shared/NameInput";
import { NumberField, ShareField, Stacked } from "../../shared/number";
import { commit } from "../../stores/editing";
import { openShot } from "../../stores/openShot";
import { preview } from "../../stores/preview";
import { selectMade } from "../../stores/selection";
import { serverTables } from "../../stores/serverTables";
import { view } from "../../stores/view";
import { PlaceFields } from "./PlaceFields";

const MAX_NAME = 60;

/** The selected cues: when, how strong, and where in the set. */
export function CueBoard() {
  const shot = useStore(openShot, (each) => each.state?.document);
  const all = shot?.cues;
  const chosen = useStore(view, (each) => each.cues);
  const cues = all?.filter(({ id }) => chosen.includes(id)) ?? [];
  const [first] = cues;
  if (!first)
    return (
      <div className="flex flex-col gap-2 px-3 py-2 text-sm">
        <p>No cue is selected. Q adds one at the playhead, also while playing.</p>
        <FileButtons some={!!all?.length} />
      </div>
    );
  return (
    <div className="flex flex-col gap-2 px-3 py-1.5">
      <div className="flex items-center gap-2">
        <NameInput
          key={first.id + first.name}
          name={first.name}
          label="Name of the cue"
          most={MAX_NAME}
          placeholder="cue"
          className="border-base-300"
          onName={(name) => void setCues({ name })}
          mayBeEmpty
        />
        {cues.length > 1 && (
          <span className="rounded-sm bg-(--wash) px-1.5 text-primary text-xs">and {cues.length - 1} more</span>
        )}
        <button
          type="button"
          className="btn btn-ghost btn-xs btn-square ml-auto"
          aria-label="Remove these cues"
          title="Remove (Delete)"
          onClick={removeCues}
        >
          <Trash2 size={13} />
        </button>
      </div>
      <div className="grid grid-cols-6 gap-x-2">
        <Stacked title="frame">
          <FrameField cue={first} />
        </Stacked>
        <Stacked title="strength">
          <Strength cue={first} />
        </Stacked>
      </div>
      {shot && <PlaceFields shot={shot} cue={first} />}
      <p className="text-(--graphite) text-xs">
        Hit layers respond to cues: the shake arrives later and weaker with distance from a cue's position, and pushes
        the camera away from it.
      </p>
      <div className="flex flex-wrap gap-1">
        <button
          type="button"
          className="btn btn-xs"
          title="Adds a hit layer, which responds to every cue"
          onClick={() => void commit({ type: "add_layer", source: "hit" }, { kept: selectMade })}
        >
          Add hit layer
        </button>
        <span className="ml-auto" />
        <FileButtons some />
      </div>
    </div>
  );
}

function FrameField({ cue }: { cue: Cue }) {
  return (
    <NumberField
      label="Frame of the cue"
      value={cue.frame}
      unit="f"
      step={0.25}
      digits={2}
      className="w-full text-left!"
      onCommit={(frame) => commit({ type: "set_cues", cues: [cue.id], frame, nowhere: false })}
    />
  );
}

function Strength({ cue }: { cue: Cue }) {
  const [least, most] = serverTables().forms.limits["set_cues.strength"] ?? [0, 1];
  const { cues } = view.getState();
  return (
    <ShareField
      label="Strength of the cue"
      value={cue.strength}
      limits={[least, most]}
      step={0.5}
      className="w-full border-0! text-left!"
      onPreview={(strength) => preview({ type: "set_cues", cues, strength, nowhere: false })}
      onCommit={(strength) => setCues({ strength })}
    />
  );
}

function FileButtons({ some }: { some: boolean }) {
  return (
    <>
      <FileButton
        label="CSV of cues"
        title="Cues from a CSV: frame or time_s, name, strength, x_m, y_m, z_m"
        accept=".csv,text/csv"
        onFile={(file) => void importCues(file)}
      >
        Import CSV
      </FileButton>
      {some && (
        <button type="button" className="btn btn-xs" title="All cues as a CSV" onClick={exportCues}>
          Export CSV
        </button>
      )}
    </>
  );
}
