"""Rays through the picture, from its border inwards."""

from __future__ import annotations

import numpy as np

from zittern.core.motion.picture import tangents
from zittern.core.motion.pose import Pose
from zittern.core.rig import rotations
from zittern.core.rig.vectors import turned
from zittern.core.shot.shot import Shot
from zittern.core.units import Array

__all__ = ["INWARD", "SIDES", "border_px", "rays_through"]

SIDES = ("left", "right", "bottom", "top")
# Inward direction at each side.
INWARD = np.array([[1.0, 0.0], [-1.0, 0.0], [0.0, 1.0], [0.0, -1.0]])


def border_px(shot: Shot, a_side: int) -> Array:
    """Places on the picture's border, corners included: of each side in the order of SIDES.

    Returns
    -------
    (4, a_side, 2) pixels right and up from the middle.
    """
    across, up = shot.picture.width_px / 2.0, shot.picture.height_px / 2.0
    along = np.linspace(-1.0, 1.0, a_side)
    return np.stack(
        [
            np.stack([np.full(a_side, -across), along * up], axis=1),
            np.stack([np.full(a_side, across), along * up], axis=1),
            np.stack([along * across, np.full(a_side, -up)], axis=1),
            np.stack([along * across, np.full(a_side, up)], axis=1),
        ]
    )


def rays_through(shot: Shot, pose: Pose, at_px: Array, punch_in: float = 1.0) -> Array:
    """Return directions in the world through points of the picture.

    Parameters
    ----------
    pose: of the lens at F frames; the shift of the film back and the distortion count.
    at_px: (F, N, 2) or (N, 2) pixels right and up from the middle.
    punch_in: so many times the focal length.

    Returns
    -------
    (F, N, 3), of any length.
    """
    flat = tangents(shot, pose, at_px, punch_in)
    lens = rotations.matrices(pose.angles_deg)
    return turned(lens[:, :, :2], flat) - lens[:, None, :, 2]
