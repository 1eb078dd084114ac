/** Settings of a movie: those of the last one, and the possible contents. */
import type { MovieRequest, State } from "../../api/types";

const STORAGE_KEY = "zittern.movie";
const FRESH: MovieRequest = {
  format: "mp4",
  width_px: 1280,
  height_px: 720,
  first_frame: null,
  last_frame: null,
  quality: "good",
  shutter_deg: 180,
  subframes: 8,
  readout_ms: 0,
  guides: false,
  strip: false,
  panes: [],
  layout: "beside",
  line: 0.5,
};

export type Pane = MovieRequest["panes"][number];

const paneOf = (variant: string): Pane => ({ variant, bare: false, title: null });

/** Width of a picture with the shot's aspect ratio. */
export function widthOf({ document: { picture } }: State, height: number): number {
  return Math.round((height * (picture.width_px ?? 16)) / (picture.height_px ?? 9));
}

/** A movie as the last one, of the variant that is shown. */
export function freshMovie(state: State): MovieRequest {
  let last: Partial<MovieRequest> = {};
  try {
    last = JSON.parse(localStorage.getItem(STORAGE_KEY) ?? "{}") as Partial<MovieRequest>;
  } catch {
    localStorage.removeItem(STORAGE_KEY);
  }
  const height_px = last.height_px ?? FRESH.height_px;
  return { ...FRESH, ...last, height_px, width_px: widthOf(state, height_px), panes: [paneOf(state.variant)] };
}

export function rememberMovie({ height_px, quality, shutter_deg, subframes, guides, strip }: MovieRequest): void {
  localStorage.setItem(STORAGE_KEY, JSON.stringify({ height_px, quality, shutter_deg, subframes, guides, strip }));
}

export type Showing = { key: string; title: string; panes: Pane[]; layout: MovieRequest["layout"] };

/** Possible contents of a movie: the variant, side by side with the move without layers or another variant, or as a wipe. */
export function showings({ variant, document: { variants } }: State): Showing[] {
  const otherVariants = variants.filter(({ id }) => id !== variant);
  return [
    { key: "one", title: "this variant", panes: [paneOf(variant)], layout: "beside" },
    ...pair("bare", "no layers", [{ variant, bare: true, title: null }, paneOf(variant)]),
    ...otherVariants.flatMap(({ id, name }) => pair(id, name, [paneOf(variant), paneOf(id)])),
    ...(otherVariants.length > 1 && otherVariants.length < 4
      ? [
          {
            key: "all",
            title: "all variants",
            panes: variants.map(({ id }) => paneOf(id)),
            layout: "beside" as const,
          },
        ]
      : []),
  ];
}

function pair(key: string, title: string, panes: Pane[]): Showing[] {
  return [
    { key: `${key} beside`, title: `${title}, side by side`, panes, layout: "beside" },
    { key: `${key} wipe`, title: `${title}, wipe`, panes, layout: "wipe" },
  ];
}

/** The chosen one. */
export function showingOf(asked: MovieRequest, among: Showing[]): string {
  const same = ({ panes, layout }: Showing) =>
    layout === asked.layout && JSON.stringify(panes) === JSON.stringify(asked.panes);
  return among.find(same)?.key ?? "one";
}
