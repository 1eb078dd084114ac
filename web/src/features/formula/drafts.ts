/** The text in a strip is stored in the browser until it is saved with the shot: a reload loses nothing. */
const KEY = "zittern.formula";

const nameOf = (shot: string, at: string) => `${KEY}/${shot}/${at}`;

export function keepDraft(shot: string, at: string, text: string): void {
  localStorage.setItem(nameOf(shot, at), text);
}

export function draftOf(shot: string, at: string): string | null {
  return localStorage.getItem(nameOf(shot, at));
}

export function dropDraft(shot: string, at: string): void {
  localStorage.removeItem(nameOf(shot, at));
}
