"""The lean of pictures from a sensor that is read row by row, and the strips to draw it in."""

from __future__ import annotations

from collections.abc import Iterable

import numpy as np

from zittern.core.motion.cache import Cache
from zittern.core.motion.evaluate import evaluate
from zittern.core.motion.picture import NEAREST_M, distances_m, view_shift_px
from zittern.core.movie.settings import MOST_STRIPS, MovieSettings
from zittern.core.shot.shot import Shot
from zittern.core.timebase import frame_grid
from zittern.core.units import Array

__all__ = ["lean_px", "with_strips"]

# Number of frames that are sampled for the speed of a longer movie.
_MOST_FRAMES = 2_000


def lean_px(shot: Shot, readout_ms: float, first: int, last: int, cache: Cache) -> float:
    """Return the maximum sideways shift between the top and the bottom of the picture, in pixels.

    They are exposed at different times: it is the movement of the picture during readout.

    Returns
    -------
    Pixels of the shot's own picture.
    """
    if readout_ms == 0.0:
        return 0.0
    return float(np.max(np.abs(_moved_px(shot, readout_ms, frame_grid(first, last), cache)[:, 0]), initial=0.0))


def with_strips(settings: MovieSettings, shots: Iterable[Shot], first: int, last: int, cache: Cache) -> MovieSettings:
    """Return settings with enough strips that the picture moves by about a pixel of the movie from one to the next."""
    if settings.readout_ms == 0.0 or settings.strips is not None:
        return settings
    frames = np.linspace(first, last, min(last - first + 1, _MOST_FRAMES))
    moved = [_moved_px(shot, settings.readout_ms, frames, cache) / shot.picture.height_px for shot in shots]
    most_px = settings.height_px * float(np.max(np.abs(np.concatenate(moved)), initial=0.0))
    return settings.replace(strips=int(np.clip(np.ceil(most_px), 1, MOST_STRIPS)))


def _moved_px(shot: Shot, readout_ms: float, frames: Array, cache: Cache) -> Array:
    """Motion of the picture while each frame is read. (F, 2) pixels of the shot's picture, right and up."""
    half = readout_ms / 2000.0 * shot.fps.value
    times = np.unique(np.concatenate([frames - half, frames + half]))
    motion = evaluate(shot, times, cache)
    top, bottom = (np.searchsorted(times, frames + each) for each in (-half, half))
    distance_m = np.maximum(distances_m(shot, motion), NEAREST_M)
    return view_shift_px(shot, motion.pose.rows_at(top), motion.pose.rows_at(bottom), distance_m[top])
