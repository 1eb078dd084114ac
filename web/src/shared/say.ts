/** Writes into an element what changes with every frame. Its text stays the same node: a new one requires a new layout. */
export function say(element: Element, text: string): void {
  const { firstChild } = element;
  if (!(firstChild instanceof Text)) element.textContent = text;
  else if (firstChild.data !== text) firstChild.data = text;
}
