"""The scribble of a shot: the shift of the picture center by its shake, with few points for a small picture."""

from __future__ import annotations

import numpy as np

from zittern.core.motion.evaluate import evaluate
from zittern.core.shot.shot import Shot
from zittern.core.units import Array

__all__ = ["drawn_frames", "scribble"]

_POINTS = 360
# With larger gaps between points the line no longer follows the motion: of a longer shot the middle is shown.
_MOST_STEP_FRAMES = 3.0


def scribble(shot: Shot) -> Array:
    """Pan and tilt of the sum of all layers that count.

    Returns
    -------
    (N, 2) degrees, N up to 360.
    """
    return evaluate(shot, drawn_frames(shot.first_frame, shot.last_frame)).total[:, :2]


def drawn_frames(start: float, stop: float) -> Array:
    """Frames of a scribble of a stretch.

    Returns
    -------
    (N,), N up to 360.
    """
    length = stop - start
    step = min(max(1.0, length / (_POINTS - 1)), _MOST_STEP_FRAMES)
    count = min(_POINTS, int(length / step + 1e-9) + 1)
    return start + (length - (count - 1) * step) / 2.0 + np.arange(count, dtype=np.float64) * step
