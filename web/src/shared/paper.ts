/** Inks and colours of the paper, for what is drawn on canvases. Asked of the page once a theme: each question makes it work out all its styles. */
import type { AxisName } from "../api/types";
import { AXES } from "./axes";

export type Paper = {
  inks: Record<AxisName, string>;
  text: string;
  graphite: string;
  rule: string;
  ground: string;
  primary: string;
};

const known = new Map<string, Paper>();

/** Background color of an element. */
export function paperOf(element: Element): Paper {
  const theme = element.closest<HTMLElement>("[data-theme]")?.dataset.theme ?? "";
  const found = known.get(theme);
  if (found) return found;
  const style = getComputedStyle(element);
  const read = (name: string) => style.getPropertyValue(name).trim();
  const inks = Object.fromEntries(AXES.map((axis) => [axis, read(`--ink-${axis}`)])) as Record<AxisName, string>;
  const paper = {
    inks,
    text: read("--color-base-content"),
    graphite: read("--graphite"),
    rule: read("--color-base-300"),
    ground: read("--color-base-100"),
    primary: read("--color-primary"),
  };
  known.set(theme, paper);
  return paper;
}
