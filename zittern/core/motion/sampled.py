"""Motion at the frames in view: all whole frames of a usual shot.

Of a long one a thinned selection over all of it, and every frame in the close view.

One frame is sampled in each equal interval, at a random position: with equal steps a wave would coincide with the
own beat and seem to stand still.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from zittern.core.motion.cache import Cache
from zittern.core.motion.evaluate import Motion, evaluate
from zittern.core.noise import streams
from zittern.core.shot.shot import Shot
from zittern.core.timebase import frame_grid
from zittern.core.units import Array, IntArray

__all__ = ["CLOSE_FRAMES", "MOST_WHOLE_FRAMES", "Sampled", "sample", "spread", "stretches"]

# Shots of up to this many frames are evaluated at every frame.
MOST_WHOLE_FRAMES = 16_384
_THINNED_FRAMES = 8_192
# A window of up to this many frames is looked at closely.
CLOSE_FRAMES = 8_192
# Frames are evaluated in blocks that start at multiples of this, so that later views reuse them.
_BLOCK_FRAMES = 2_048
# Ranges of a long shot that represent it where adjacent frames are needed.
_STRETCHES = 4
_PLACES_SEED = 20


@dataclass(frozen=True, slots=True)
class Sampled:
    """frames (F,), rising.

    pieces: motions whose concatenated rows, in `order` (F,), belong to these frames; a single piece needs no order.
    exact: stretches [first, last] in which every whole frame is there. whole: motion spread evenly over the shot; near:
    motion of adjacent whole frames around the requested frame.
    """

    frames: Array
    pieces: tuple[Motion, ...]
    order: IntArray | None
    exact: tuple[tuple[int, int], ...]
    whole: Motion
    near: Motion


def sample(shot: Shot, frame: float, window: tuple[int, int] | None, cache: Cache) -> Sampled:
    """Return the motion for a view of a shot at a frame, with a window of frames in view (all of it by default)."""
    if shot.frame_count <= MOST_WHOLE_FRAMES:
        motion = evaluate(shot, cache=cache)
        return Sampled(motion.frames, (motion,), None, ((shot.first_frame, shot.last_frame),), motion, motion)
    thinned = evaluate(shot, _thinned(shot), cache)
    blocks = _blocks(shot, frame, window)
    close = [evaluate(shot, frame_grid(first, last), cache) for first, last in blocks]
    near = next(motion for motion in close if motion.frames[0] <= _clamped_frame(shot, frame) <= motion.frames[-1])
    rows = np.concatenate([thinned.frames, *(motion.frames for motion in close)])
    frames, order = np.unique(rows, return_index=True)
    return Sampled(frames, (thinned, *close), order, _merged_blocks(blocks), thinned, near)


def stretches(shot: Shot, cache: Cache) -> list[Motion]:
    """Neighbouring whole frames: all of a usual shot, of a long one a few stretches spread over it."""
    if shot.frame_count <= MOST_WHOLE_FRAMES:
        return [evaluate(shot, cache=cache)]
    starts = np.linspace(shot.first_frame, shot.last_frame - _BLOCK_FRAMES + 1, _STRETCHES)
    return [evaluate(shot, np.floor(start) + np.arange(_BLOCK_FRAMES, dtype=np.float64), cache) for start in starts]


def _thinned(shot: Shot) -> Array:
    """One whole frame of each of many equal stretches, the first and the last of the shot among them. (F,)."""
    frames = spread(shot.first_frame, shot.frame_count, _THINNED_FRAMES, _PLACES_SEED)
    frames[0], frames[-1] = shot.first_frame, shot.last_frame
    return frames


def spread(first: float, count: int, most: int, seed: int) -> Array:
    """Return one whole frame of each of `most` equal parts of a longer range.

    Its position in the part is random.

    Returns
    -------
    (most,).
    """
    place = streams.at(np.array([seed], dtype=np.uint64), np.arange(most, dtype=np.int64))[0] * 0.5 + 0.5
    return np.asarray(first + np.floor((np.arange(most) + place) / most * count), dtype=np.float64)


def _blocks(shot: Shot, frame: float, window: tuple[int, int] | None) -> list[tuple[int, int]]:
    """Blocks [first, last] of whole frames, rising.

    Those about the frame, where it plays on, and of a window that is close enough.
    """

    def number(at: float) -> int:
        return int(_clamped_frame(shot, at) - shot.first_frame) // _BLOCK_FRAMES

    wanted = {number(frame), number(frame + _BLOCK_FRAMES / 2)}
    if window is not None and window[0] <= window[1] < window[0] + CLOSE_FRAMES:
        wanted |= set(range(number(window[0]), number(window[1]) + 1))
    starts = [shot.first_frame + each * _BLOCK_FRAMES for each in sorted(wanted)]
    return [(start, min(start + _BLOCK_FRAMES - 1, shot.last_frame)) for start in starts]


def _clamped_frame(shot: Shot, frame: float) -> float:
    return float(np.floor(min(max(frame, shot.first_frame), shot.last_frame)))


def _merged_blocks(blocks: list[tuple[int, int]]) -> tuple[tuple[int, int], ...]:
    out: list[tuple[int, int]] = []
    for first, last in blocks:
        if out and out[-1][1] + 1 == first:
            out[-1] = out[-1][0], last
        else:
            out.append((first, last))
    return tuple(out)
