import { Problem } from "../../api/client";

/** What went wrong, and where. */
export function explain(error: unknown): string {
  if (error instanceof Problem) return error.where ? `${error.message} (${error.where})` : error.message;
  return error instanceof Error ? error.message : String(error);
}
