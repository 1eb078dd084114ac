"""The scribble of a shot: where its shake takes the picture's centre, as few points as make a small picture."""

from __future__ import annotations

import numpy as np

from zittern.core.motion.evaluate import evaluate
from zittern.core.shot.shot import Shot
from zittern.core.units import Array

__all__ = ["scribble"]

_POINTS = 360
# Further apart than this many frames, points no longer follow the motion: of a longer shot the middle is shown.
_MOST_STEP_FRAMES = 3.0


def scribble(shot: Shot) -> Array:
    """Pan and tilt of the sum of all layers that count. (N, 2) degrees, N at most 360."""
    length = shot.last_frame - shot.first_frame
    step = min(max(1.0, length / (_POINTS - 1)), _MOST_STEP_FRAMES)
    count = min(_POINTS, int(length / step + 1e-9) + 1)
    start = shot.first_frame + (length - (count - 1) * step) / 2.0
    return evaluate(shot, start + np.arange(count, dtype=np.float64) * step).total[:, :2]
