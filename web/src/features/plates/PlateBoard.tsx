import { Trash2 } from "lucide-react";
import { useStore } from "zustand";
import { choosePictures, PICTURE_FILES, removePlate, selectPlate, showPicture } from "../../acts/plates";
import type { Plate } from "../../api/types";
import { Fields } from "../../parts/Fields";
import { FileButton } from "../../shared/FileButton";
import { limitsOf } from "../../shared/fields";
import { NameInput } from "../../shared/NameInput";
import { NumberField, Stacked } from "../../shared/number";
import { commit } from "../../stores/editing";
import { motion } from "../../stores/motion";
import { openShot } from "../../stores/openShot";
import { cancelPreview, preview } from "../../stores/preview";
import { serverTables } from "../../stores/serverTables";
import { stage } from "../../stores/stage";
import { view } from "../../stores/view";
import { Coverage } from "./Coverage";

const MAX_NAME = 60;
const NONE: Plate[] = [];
const BENT = ["bend_deg"];
const EDGED = ["edge_percent"];

/** The selected plate: where and how it hangs, how it moves in the picture, whether it fills the frame. */
export function PlateBoard() {
  const plates = useStore(openShot, (each) => each.state?.document.plates ?? NONE);
  const chosen = useStore(view, (each) => each.plate);
  const plate = plates.find(({ id }) => id === chosen);
  if (!plate)
    return (
      <div className="flex flex-col gap-2 px-3 py-2 text-sm">
        <p>No plate is selected. Plates are pictures hung in depth: drop PNG, JPEG or WebP files on the page.</p>
        <HangButton />
        <Shelf plates={plates} chosen={null} />
      </div>
    );
  const at = `plate:${plate.id}`;
  const hidden = [...(plate.shape === "flat" ? BENT : []), ...(plate.edges === "bare" ? EDGED : [])];
  const looks = serverTables().forms.plate.filter(({ field }) => !hidden.includes(field));
  return (
    <div className="flex flex-col gap-2 px-3 py-1.5">
      <div className="flex items-center gap-2">
        <NameInput
          key={plate.id + plate.name}
          name={plate.name}
          label="Name of the plate"
          most={MAX_NAME}
          placeholder="plate"
          className="border-base-300"
          onName={(name) => void commit({ type: "set_values", values: [{ at: `${at}.name`, value: name }] })}
        />
        <span className="num text-(--graphite) text-xs">
          {plate.width_px} × {plate.height_px}
        </span>
        <FileButton
          label="Replace image for this plate"
          title="Shows another file on this plate; place and width stay"
          accept={PICTURE_FILES}
          className="btn-xs ml-auto"
          onFile={(file) => void showPicture(plate.id, file)}
        >
          Replace image
        </FileButton>
        <button
          type="button"
          className="btn btn-ghost btn-xs btn-square"
          aria-label="Remove plate"
          title="Take down (Delete)"
          onClick={removePlate}
        >
          <Trash2 size={13} />
        </button>
      </div>
      <Missing picture={plate.picture} />
      <Depth plate={plate} />
      <div className="grid grid-cols-4 gap-x-3 gap-y-1">
        <Fields at={at} document={plate} looks={looks} />
      </div>
      <Coverage />
      <Shelf plates={plates} chosen={plate.id} />
      <HangButton />
    </div>
  );
}

/** Its distance, without a change of its size in the picture; its movement with the camera. */
function Depth({ plate }: { plate: Plate }) {
  const reading = useStore(motion, (state) => state.readings?.plates.find((each) => each.plate === plate.id));
  if (!reading) return null;
  const [least, most] = limitsOf("set_plate_distance.distance_m");
  const set = (distance_m: number) => ({ type: "set_plate_distance" as const, plate: plate.id, distance_m });
  return (
    <div className="grid grid-cols-4 items-end gap-x-3">
      <Stacked title="distance" hint="From the lens at the first frame; its size in the picture stays">
        <NumberField
          label="Distance of the plate"
          value={reading.distance_m}
          unit="m"
          step={0.02}
          digits={2}
          scales
          least={least}
          most={most}
          className="w-full text-left!"
          onPreview={(to) => preview(set(to))}
          onCommit={(to) => commit(set(to))}
          onCancel={cancelPreview}
        />
      </Stacked>
      <p className="num col-span-3 text-xs" title="Parallax: picture movement in px per cm of truck">
        {reading.px_per_cm.toFixed(2)} px for each cm of truck · {(100 * reading.share).toFixed(0)} % of the picture's
        width
      </p>
    </div>
  );
}

function Missing({ picture }: { picture: string }) {
  const missing = useStore(stage, (state) => state.missing.includes(picture));
  if (!missing) return null;
  return (
    <p role="alert" className="text-error text-xs">
      Its picture is not on this machine. “Replace image” hangs the file again; place and size stay.
    </p>
  );
}

function HangButton() {
  return (
    <button
      type="button"
      className="btn btn-xs self-start"
      title="PNG, JPEG or WebP, in any number"
      onClick={choosePictures}
    >
      Add image plates …
    </button>
  );
}

/** All plates, the nearest first. */
function Shelf({ plates, chosen }: { plates: Plate[]; chosen: string | null }) {
  const readings = useStore(motion, (state) => state.readings?.plates);
  if (plates.length < (chosen ? 2 : 1)) return null;
  const order = readings?.map(({ plate }) => plate) ?? [];
  const sorted = [...plates].sort((a, b) => order.indexOf(a.id) - order.indexOf(b.id));
  return (
    <ul className="flex flex-wrap gap-1 border-base-300 border-t pt-1.5" aria-label="Plates, the nearest first">
      {sorted.map(({ id, name, picture }) => (
        <li key={id}>
          <button
            type="button"
            aria-pressed={id === chosen}
            title={`${name}, ${readings?.find(({ plate }) => plate === id)?.distance_m.toFixed(1) ?? "?"} m away`}
            className={`flex max-w-28 items-center gap-1 rounded-sm border px-1 py-0.5 text-xs ${id === chosen ? "border-primary bg-(--wash)" : "border-base-300 hover:bg-base-200"}`}
            onClick={() => selectPlate(id)}
          >
            <img src={`/api/pictures/${picture}?small=true`} alt="" className="h-5 w-8 object-cover" />
            <span className="truncate">{name}</span>
          </button>
        </li>
      ))}
    </ul>
  );
}
