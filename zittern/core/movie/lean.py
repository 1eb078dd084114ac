"""How far a sensor that is read row by row leans the picture."""

from __future__ import annotations

import numpy as np

from zittern.core.motion.cache import Cache
from zittern.core.motion.evaluate import evaluate
from zittern.core.picture import distances_m, picture_offsets_px
from zittern.core.shot.shot import Shot
from zittern.core.timebase import frame_grid

__all__ = ["lean_px"]


def lean_px(shot: Shot, readout_ms: float, first: int, last: int, cache: Cache) -> float:
    """The most that the top and the bottom of the picture are apart sideways, in pixels, because they are seen at
    different times: how far the picture goes across while the sensor is read.

    Returns
    -------
    Pixels of the shot's own picture.
    """
    frames = frame_grid(first, last)
    half = readout_ms / 2000.0 * shot.fps.value
    times = np.unique(np.concatenate([frames - half, frames + half]))
    motion = evaluate(shot, times, cache)
    across = picture_offsets_px(shot, motion, distances_m(shot, motion))[:, 0]
    top, bottom = (across[np.searchsorted(times, frames + each)] for each in (-half, half))
    return float(np.max(np.abs(bottom - top), initial=0.0))
