"""Readings during playback: streak, distance, height, speed."""

from __future__ import annotations

import numpy as np

from zittern.core.motion.evaluate import Motion
from zittern.core.motion.picture import distances_m, picture_offsets_px
from zittern.core.rig.vectors import lengths
from zittern.core.shot.shot import Shot
from zittern.core.units import Array, BoolArray

__all__ = ["SHUTTER_SHARE", "flowing"]

# The usual opening of a film camera's shutter, as a share of the frame (180 of 360 degrees).
SHUTTER_SHARE = 0.5


def flowing(shot: Shot, motion: Motion) -> Array:
    """Return the readings during playback, at each frame of a motion.

    Streak of the picture center (pixels), distance of the subject (m), height of the lens (m), speed of the bare move
    (m/s).

    Returns
    -------
    (F, 4); NaN without the required adjacent frame, and for the distance without a subject.
    """
    distance = distances_m(shot, motion)
    apart = np.diff(motion.frames) != 1.0
    streak, _ = _steps(picture_offsets_px(shot, motion, distance), apart)
    on, back = _steps(motion.bare.position_m, apart)
    out = np.empty((4, len(distance)))
    out[0] = streak * SHUTTER_SHARE
    out[1] = distance if shot.subject else np.nan
    out[2] = motion.pose.position_m[:, 1]
    out[3] = 0.5 * (on + back) * shot.fps.value
    return out.T


def _steps(values: Array, apart: BoolArray) -> tuple[Array, Array]:
    """Return the movement of a point from each frame to the next, and from the previous one.

    At the ends of the shot both are equal. apart: (F - 1,) whether frames are not adjacent. (F, n) -> two (F,).
    """
    if len(values) < 2:
        return np.zeros(len(values)), np.zeros(len(values))
    gone = lengths(np.diff(values, axis=0))
    gone[apart] = np.nan
    return np.append(gone, gone[-1]), np.insert(gone, 0, gone[0])
