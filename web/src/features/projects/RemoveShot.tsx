import { Trash2 } from "lucide-react";
import { useState } from "react";
import { client, take } from "../../api/client";
import type { ShotCard as Card } from "../../api/types";
import { useActing } from "./useActing";

/** Removes a shot for good, at the second click. */
export function RemoveShot({ shot }: { shot: Card }) {
  const [sure, setSure] = useState(false);
  const act = useActing();
  const remove = () => act(take<void>(client.DELETE("/api/shots/{shot}", { params: { path: { shot: shot.id } } })));
  return (
    <button
      type="button"
      className={`btn btn-xs ${sure ? "btn-error" : "btn-ghost"}`}
      aria-label={sure ? `Really remove ${shot.name}` : `Remove ${shot.name}`}
      title="Delete with its history"
      onBlur={() => setSure(false)}
      onClick={() => (sure ? void remove() : setSure(true))}
    >
      <Trash2 size={13} /> {sure && "Delete permanently?"}
    </button>
  );
}
