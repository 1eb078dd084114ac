/** The view determines the requested frames. Whole-shot values refer to the loop if there is one. Of a long shot only some frames are known one by one: asks for others when they are looked at or about to be played. */
import { isExact, lookedAt, motion } from "./motion";
import { refresh } from "./preview";
import { transport } from "./transport";
import { view } from "./view";

/** While it plays, the next ones are asked for this long before they are needed. */
const AHEAD_S = 8;
/** A window that is still being dragged is not asked for. */
const REST_MS = 120;

let waiting = 0;

function askSoon(): void {
  clearTimeout(waiting);
  waiting = window.setTimeout(refresh, REST_MS);
}

function look(): void {
  const state = motion.getState();
  if (state.rows === 0 || isExact(state.first, state.last)) return;
  const { frame, playing, fps, last } = transport.getState();
  const [from, to] = lookedAt();
  const far = isExact(frame, playing ? Math.min(frame + AHEAD_S * fps, last) : frame);
  const wide = to - from >= state.close || isExact(from, to);
  if (!far || !wide) askSoon();
}

transport.subscribe((now, before) => {
  if (now.frame !== before.frame || now.playing !== before.playing) look();
  if (now.loop?.join() !== before.loop?.join() && motion.getState().rows > 0) askSoon();
});
view.subscribe((now, before) => {
  if (now.window !== before.window || now.rowsInView !== before.rowsInView) look();
});
