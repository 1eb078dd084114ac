import { useState } from "react";
import { limitsOf } from "../../shared/fields";
import { NumberField } from "../../shared/number";
import { facts } from "../../stores/facts";
import { cancelPreview } from "../../stores/trying";
import { aim, tryAim } from "./placing";

const PERCENT = 100;

/** Aiming at the subject, and how much of the picture it fills. */
export function AimBar({ subject }: { subject: string }) {
  const { framings } = facts().forms;
  const [fill, setFill] = useState(framings[1]?.fill ?? 1);
  const [least, most] = limitsOf("aim_camera.fill");
  return (
    <>
      <button
        type="button"
        className="btn btn-xs"
        title="Turns the camera to the subject; roll stays"
        onClick={() => void aim(null)}
      >
        Aim at {subject}
      </button>
      <span
        className="cond flex items-center gap-1 text-(--graphite) text-xs"
        title="Aims, and goes where the subject takes this share of the picture's height"
      >
        fill
        <NumberField
          label="Fill of the picture's height"
          value={fill * PERCENT}
          unit="%"
          step={0.5}
          least={least * PERCENT}
          most={most * PERCENT}
          digits={0}
          scales
          className="border border-base-300 text-base-content"
          onPreview={(percent) => tryAim(percent / PERCENT)}
          onCommit={(percent) => {
            setFill(percent / PERCENT);
            return aim(percent / PERCENT);
          }}
          onCancel={cancelPreview}
        />
      </span>
      {framings.map((each) => (
        <button
          key={each.title}
          type="button"
          className="btn btn-xs"
          title={`Aims, and goes where the subject takes ${Math.round(each.fill * PERCENT)} % of the picture's height`}
          onClick={() => void aim(each.fill)}
        >
          {each.title}
        </button>
      ))}
    </>
  );
}
