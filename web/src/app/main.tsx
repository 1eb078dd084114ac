import { explain } from "../api/client";
import { loadFacts } from "../stores/serverTables";
import "./theme.css";

/** Canvases write numbers with the font that is there when they draw: it has to be there first. */
const font = document.fonts.load('11px "IBM Plex Mono"').catch(() => undefined);

async function start(element: HTMLElement): Promise<void> {
  try {
    await Promise.all([font, loadFacts()]);
    const { show } = await import("./show");
    show(element);
  } catch (error) {
    element.textContent = `Zittern cannot start: ${explain(error)}`;
    element.className = "grid h-full place-items-center";
  }
}

const root = document.getElementById("root");
if (root) void start(root);
