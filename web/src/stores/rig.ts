/** The mount that is worked on. */

import { keysOf } from "../api/param";
import type { Mount, Shot } from "../api/types";
import { openShot } from "./openShot";
import { serverTables } from "./serverTables";
import { view } from "./view";

const moves = (mount: Mount): boolean =>
  serverTables().forms.move.some(({ field, group }) => {
    if (group === "lens") return false;
    return keysOf(mount[field as keyof Mount] as Parameters<typeof keysOf>[0]).length > 0;
  });

/** The part of the rig that is worked on: the one chosen, else the last that has keys, else the last. */
export function workMount(shot: Shot, chosen: string | null = view.getState().mount): Mount | undefined {
  const { mounts } = shot;
  return mounts.find(({ id }) => id === chosen) ?? mounts.findLast(moves) ?? mounts.at(-1);
}

/** The same of the open shot. */
export function mountNow(): Mount | undefined {
  const shot = openShot.getState().state?.document;
  return shot && workMount(shot);
}

/** Its id, as commands name it. */
export const mountId = (): string | null => mountNow()?.id ?? null;
