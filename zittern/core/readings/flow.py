"""What people watch while a shot plays: streak, distance, height, speed."""

from __future__ import annotations

import numpy as np

from zittern.core.motion.evaluate import Motion
from zittern.core.picture import distances_m, picture_offsets_px
from zittern.core.shot.shot import Shot
from zittern.core.units import Array

__all__ = ["SHUTTER_SHARE", "flowing"]

# The usual opening of a film camera's shutter, as a share of the frame (180 of 360 degrees).
SHUTTER_SHARE = 0.5


def flowing(shot: Shot, motion: Motion) -> Array:
    """What people watch while it plays, at each frame of a motion: streak of the picture's centre (pixels), distance of
    the subject (m), height of the lens (m), speed of the bare move (m/s).

    Returns
    -------
    (F, 4); NaN where it takes a neighbouring whole frame that is not there, and for the distance where no subject is
    marked.
    """
    distance = distances_m(shot, motion)
    streak = _steps(picture_offsets_px(shot, motion, distance), motion.frames) * SHUTTER_SHARE
    back = _steps(motion.bare.position_m[::-1], -motion.frames[::-1])[::-1]
    on = _steps(motion.bare.position_m, motion.frames)
    speed = 0.5 * (on + back) * shot.fps.value
    told = distance if shot.subject else np.full_like(distance, np.nan)
    return np.column_stack([streak, told, motion.pose.position_m[:, 1], speed])


def _steps(values: Array, frames: Array) -> Array:
    """How far a point goes from each frame to the next, from the last one as from the one before. (F, n) -> (F,)."""
    if len(values) < 2:
        return np.zeros(len(values))
    gone = np.where(np.diff(frames) == 1.0, np.linalg.norm(np.diff(values, axis=0), axis=1), np.nan)
    return np.append(gone, gone[-1])
