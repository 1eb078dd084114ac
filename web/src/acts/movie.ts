/** Making a movie: its frames are drawn one after another, each sent when the encoder has taken the one before. */
import { client, explain, Problem, take } from "../api/client";
import { fetchMoments, type Moments, sendFrame } from "../api/movies";
import type { MovieRequest, MovieState } from "../api/types";
import { download } from "../shared/download";
import { type Frames, filming, framesOf, type Movie, NO_MOVIE, orderOf, PictureLost } from "../stores/movie";
import { note } from "../stores/notes";
import { openShot, stillOpen } from "../stores/openShot";
import { stage } from "../stores/stage";
import { type Overlays, overlaysOf } from "./movieStrip";

/** Number of drawings per request. */
const CHUNK_DRAWINGS = 256;
const MAX_CHUNK_FRAMES = 24;
/** After a frame could not be sent it is tried again, this long. */
const AGAIN_MS = 1000;
const MAX_TRIES = 600;
/** Interval of heartbeats while a frame takes long. */
const BEAT_MS = 15_000;

const pathOf = (id: string) => ({ params: { path: { movie: id } } });
const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

/** Begins a movie of the open shot, and makes it. */
export async function startMovie(asked: MovieRequest): Promise<void> {
  const { state } = openShot.getState();
  if (!state) return;
  filming.setState(NO_MOVIE);
  const params = { path: { shot: state.slug } };
  const movie = await take<MovieState>(client.POST("/api/shots/{shot}/movies", { params, body: asked }));
  for (const text of movie.says) note("info", text);
  void drawFrames(movie);
}

/** Continues a movie from its next frame. */
export async function resumeMovie(id: string): Promise<void> {
  void drawFrames(await take<MovieState>(client.GET("/api/movies/{movie}", pathOf(id))));
}

/** Ends the movie; nothing is left of it. */
export async function cancelMovie(): Promise<void> {
  const { movie } = filming.getState();
  filming.setState(NO_MOVIE);
  if (movie) await take<MovieState>(client.DELETE("/api/movies/{movie}", pathOf(movie.id)));
}

/** Whether a movie is still the current one. */
const isCurrent = ({ id }: Movie) => filming.getState().movie?.id === id;
/** Movies that a loop of this page makes. */
const looping = new Set<string>();

async function drawFrames(movie: Movie): Promise<void> {
  filming.setState({ movie, waits: null, problem: null });
  if (looping.has(movie.id)) return;
  looping.add(movie.id);
  const beat = setInterval(() => void client.POST("/api/movies/{movie}/heartbeat", pathOf(movie.id)), BEAT_MS);
  try {
    await makeAll(movie);
    if (!isCurrent(movie)) return;
    const done = await take<MovieState>(client.GET("/api/movies/{movie}", pathOf(movie.id)));
    filming.setState({ movie: done, waits: null });
    download(`/api/movies/${movie.id}/file`, movie.filename);
    note("info", `${movie.filename} is ready`);
  } catch (error) {
    if (isCurrent(movie)) filming.setState({ problem: explain(error), waits: null });
  } finally {
    clearInterval(beat);
    looping.delete(movie.id);
  }
}

/** All frames; when the shot is left it waits, and continues in the next scene. */
async function makeAll(movie: Movie): Promise<void> {
  while (isCurrent(movie)) {
    const now = filming.getState().movie ?? movie;
    if (now.next >= now.frames) return;
    const frames = await ready(movie);
    if (!frames) return;
    filming.setState({ waits: null });
    const overlays = overlaysOf(movie);
    try {
      await make(now, frames, overlays);
    } finally {
      overlays.dispose();
      frames.dispose();
    }
  }
}

/** The renderer of its frames, once its shot is open and its set and pictures are loaded; null when it was canceled. */
async function ready(movie: Movie): Promise<Frames | null> {
  while (isCurrent(movie)) {
    const frames = sceneIsHere(movie) ? framesOf(movie) : null;
    if (frames) return frames;
    filming.setState({ waits: "continues when its shot is open" });
    await pause(AGAIN_MS / 4);
  }
  return null;
}

function sceneIsHere({ shot }: Movie): boolean {
  const { state } = openShot.getState();
  if (state?.slug !== shot) return false;
  const { set_id, plates } = state.document;
  const { ready, plates: hung } = stage.getState();
  const pictures = (plates ?? []).every(({ id }) => hung.includes(id));
  return (ready || !set_id) && pictures && document.fonts.status === "loaded";
}

/** Draws as many frames as possible in this scene. */
async function make(movie: Movie, frames: Frames, overlays: Overlays): Promise<void> {
  const here = stillOpen();
  const chunk = Math.max(1, Math.min(MAX_CHUNK_FRAMES, Math.floor(CHUNK_DRAWINGS / movie.draws.length)));
  let moments: Moments | null = null;
  let wave: Float32Array | null = null;
  let sending: Promise<void> = Promise.resolve();
  if (movie.next > 0) wave = (await fetchMoments(movie.id, 0, 1)).arrays.get("wave")?.data ?? null;
  for (let n = movie.next; n < movie.frames && isCurrent(movie) && here(); n++) {
    if (!moments || n >= moments.first + moments.count / movie.draws.length) {
      const count = Math.min(chunk, movie.frames - n);
      moments = await patiently(movie, () => fetchMoments(movie.id, n, count));
      wave ??= moments.arrays.get("wave")?.data ?? null;
    }
    const order = orderOf(moments, n - moments.first, movie.draws.length);
    if (!here()) break;
    const bytes = await frames.make(order, overlays.at(n, order, wave)).catch((error: unknown) => {
      if (error instanceof PictureLost) return null;
      throw error;
    });
    if (!bytes) break;
    // Two are under way: this one, and the one before, which the encoder has to have taken.
    await sending;
    if (!isCurrent(movie)) break;
    sending = patiently(movie, async () => {
      const { next } = await sendFrame(movie.id, n, bytes);
      filming.setState((each) => (each.movie?.id === movie.id ? { movie: { ...each.movie, next }, waits: null } : {}));
    });
    // Errors are handled when the result is awaited.
    sending.catch(() => undefined);
  }
  await sending;
}

/** Does something again and again while the server cannot be reached. */
async function patiently<T>(movie: Movie, work: () => Promise<T>): Promise<T> {
  for (let tries = 0; ; tries++) {
    try {
      return await work();
    } catch (error) {
      const lost = error instanceof Problem && (error.status === 0 || error.status === 503);
      if (!lost || tries >= MAX_TRIES || !isCurrent(movie)) throw error;
      filming.setState({ waits: "it waits for the server" });
      await pause(AGAIN_MS);
    }
  }
}
