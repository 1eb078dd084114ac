/** The server, typed from OpenAPI; faults come out as Problem. */
import createClient from "openapi-fetch";
import type { paths } from "./schema";

export const client = createClient<paths>({ baseUrl: "/" });

/** An answer that is not a success (RFC 9457). */
export class Problem extends Error {
  readonly status: number;
  readonly where: string;
  /** The same for people, where it has a name. */
  readonly place: string;
  readonly details: Record<string, unknown>;

  constructor(status: number, body: unknown) {
    const details = typeof body === "object" && body !== null ? (body as Record<string, unknown>) : {};
    super(typeof details.detail === "string" ? details.detail : "the server did not answer; is it still running?");
    this.status = status;
    this.where = typeof details.where === "string" ? details.where : "";
    this.place = typeof details.place === "string" ? details.place : "";
    this.details = details;
  }
}

/** What went wrong, and where, in a line. */
export function explain(error: unknown): string {
  if (!(error instanceof Problem)) return error instanceof Error ? error.message : String(error);
  if (error.place) return `${error.place}: ${error.message}`;
  return error.where ? `${error.message} (${error.where})` : error.message;
}

/** What a call answered, or a Problem thrown. T is the schema's own type: openapi-fetch widens its tuples to arrays. */
export async function take<T>(call: Promise<{ data?: unknown; error?: unknown; response: Response }>): Promise<T> {
  let answer: { data?: unknown; error?: unknown; response: Response };
  try {
    answer = await call;
  } catch {
    throw new Problem(0, {});
  }
  if (!answer.response.ok) throw new Problem(answer.response.status, answer.error);
  return answer.data as T;
}

/** Sends a form with a file. */
export async function sendForm<T>(path: string, fields: Record<string, string | Blob>, filename: string): Promise<T> {
  const form = new FormData();
  for (const [name, value] of Object.entries(fields)) {
    if (value instanceof Blob) form.append(name, value, filename);
    else form.append(name, value);
  }
  let response: Response;
  try {
    response = await fetch(path, { method: "POST", body: form });
  } catch {
    throw new Problem(0, {});
  }
  const body: unknown = await response.json().catch(() => ({}));
  if (!response.ok) throw new Problem(response.status, body);
  return body as T;
}
