/** The server, typed from OpenAPI; faults come out as Problem. */
import createClient from "openapi-fetch";
import { envelope, VARIANT } from "./envelope";
import type { paths } from "./schema";

/** The server ends its own work long before; who waits longer waits for nothing. */
export const MAX_WAIT_MS = 120_000;

const patient = (request: Request) => fetch(request, { signal: AbortSignal.timeout(MAX_WAIT_MS) });

export const client = createClient<paths>({ baseUrl: "/", fetch: patient });

client.use({
  onRequest({ request }) {
    for (const [name, value] of Object.entries(envelope()))
      if (!request.headers.has(VARIANT)) request.headers.set(name, value);
  },
});

/** An answer that is not a success (RFC 9457). */
export class Problem extends Error {
  readonly status: number;
  readonly where: string;
  /** The title, for values with a name. */
  readonly place: string;
  readonly details: Record<string, unknown>;

  constructor(status: number, body: unknown) {
    const details = typeof body === "object" && body !== null ? (body as Record<string, unknown>) : {};
    super(typeof details.detail === "string" ? details.detail : unsaid(status));
    this.status = status;
    this.where = typeof details.where === "string" ? details.where : "";
    this.place = typeof details.place === "string" ? details.place : "";
    this.details = details;
  }
}

/** Message for an answer without one, such as a page from a proxy. */
function unsaid(status: number): string {
  if (status === 0) return "the server did not answer; is it still running?";
  return `the server failed (${status}) without a reason; the previous view is kept. Try again`;
}

/** Message for a missing answer. */
export function unanswered(error: unknown): Problem {
  if (!(error instanceof DOMException && error.name === "TimeoutError")) return new Problem(0, {});
  return new Problem(0, { detail: `the server has not answered for ${MAX_WAIT_MS / 60_000} minutes; try again` });
}

/** The error and its position, in one line. */
export function explain(error: unknown): string {
  if (!(error instanceof Problem)) return error instanceof Error ? error.message : String(error);
  if (error.place) return `${error.place}: ${error.message}`;
  return error.where ? `${error.message} (${error.where})` : error.message;
}

/** The answer of a call; throws a Problem. T is the schema's own type: openapi-fetch widens its tuples to arrays. */
export async function take<T>(call: Promise<{ data?: unknown; error?: unknown; response: Response }>): Promise<T> {
  let answer: { data?: unknown; error?: unknown; response: Response };
  try {
    answer = await call;
  } catch (error) {
    throw unanswered(error);
  }
  if (!answer.response.ok) throw new Problem(answer.response.status, answer.error);
  return answer.data as T;
}

/** Sends a form with a file. */
export async function sendForm<T>(
  path: string,
  fields: Record<string, string | Blob | File[]>,
  filename: string,
): Promise<T> {
  const form = new FormData();
  for (const [name, value] of Object.entries(fields)) {
    if (Array.isArray(value)) for (const file of value) form.append(name, file, file.name);
    else if (value instanceof Blob) form.append(name, value, filename);
    else form.append(name, value);
  }
  let response: Response;
  try {
    response = await patient(new Request(path, { method: "POST", body: form, headers: envelope() }));
  } catch (error) {
    throw unanswered(error);
  }
  const body: unknown = await response.json().catch(() => ({}));
  if (!response.ok) throw new Problem(response.status, body);
  return body as T;
}
