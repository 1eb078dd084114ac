/** What is typed into a number, read by the server. */
import { client, explain, take } from "../../api/client";
import type { Typed } from "../../api/types";

/** The number that a text stands for, where `before` stood, or what is wrong with it. */
export async function arithmetic(text: string, before: number): Promise<{ value: number } | { fault: string }> {
  try {
    const { value, fault } = await take<Typed>(client.POST("/api/arithmetic", { body: { text, before } }));
    return value === null ? { fault: fault ?? "this is no number" } : { value };
  } catch (error) {
    return { fault: explain(error) };
  }
}
