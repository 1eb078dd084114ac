import { useState } from "react";
import { aim, tryAim } from "../../acts/placing";
import { limitsOf } from "../../shared/fields";
import { ShareField } from "../../shared/number";
import { serverTables } from "../../stores/serverTables";

const PERCENT = 100;

/** Buttons to aim at the subject, and its height in the picture. */
export function AimBar({ subject }: { subject: string }) {
  const { framings } = serverTables().forms;
  const [fill, setFill] = useState(framings[1]?.fill ?? 1);
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
        title="Aims, and moves so that the subject fills this share of the picture's height"
      >
        fill
        <ShareField
          label="Fill of the picture's height"
          value={fill}
          limits={limitsOf("aim_camera.fill")}
          step={0.5}
          scales
          className="text-base-content"
          onPreview={tryAim}
          onCommit={(share) => {
            setFill(share);
            return aim(share);
          }}
        />
      </span>
      {framings.map((each) => (
        <button
          key={each.title}
          type="button"
          className="btn btn-xs"
          title={`Aims, and moves so that the subject fills ${Math.round(each.fill * PERCENT)} % of the picture's height`}
          onClick={() => void aim(each.fill)}
        >
          {each.title}
        </button>
      ))}
    </>
  );
}
