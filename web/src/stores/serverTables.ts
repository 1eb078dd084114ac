/** Tables that the server sends once: axes, sources, forms, limits. It is there before anything of the page runs, so that modules may read it as they load. */
import { client, take } from "../api/client";
import type { Tables } from "../api/types";

let known: Tables | null = null;

export async function loadFacts(): Promise<void> {
  known = await take<Tables>(client.GET("/api/tables"));
}

export function serverTables(): Tables {
  if (!known) throw new Error("the tables are not loaded yet");
  return known;
}
