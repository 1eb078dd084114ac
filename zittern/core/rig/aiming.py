"""Angles that show a point at a position on screen: pan and tilt in closed form.

With the lens at b from the pivot and its ray d to the position on screen, the point is at b + l d for some
l, and at its own distance:
|b + l d| = |s|. Rolled about the forward axis that is v; tilt t turns it to the height of s, v_y cos t - v_z sin t =
s_y, and pan to its heading.
"""

from __future__ import annotations

import numpy as np

from zittern.core.rig import rotations
from zittern.core.rig.vectors import lengths
from zittern.core.units import Array

__all__ = ["pan_tilt_deg"]

# Nearer than this (m) to the turning point there is no direction.
_NEAR_M = 1e-4


def pan_tilt_deg(away_m: Array, behind_m: Array, ray: Array, roll_deg: Array) -> Array:
    """With which a point is seen along a ray. Out of reach of a tilt, the nearest.

    Parameters
    ----------
    away_m: (F, 3) s, from the turning point to the point, in the frame that pan and tilt turn in.
    behind_m: (F, 3) b, in the frame that is turned.
    ray: (F, 3) d, unit length, in the frame that is turned.
    roll_deg : (F,) float64, degrees.

    Returns
    -------
    (F, 2) degrees, NaN where there is no direction.
    """
    far = lengths(away_m)
    along = np.sum(ray * behind_m, axis=1)
    reach = np.sqrt(np.maximum(along**2 - np.sum(behind_m**2, axis=1) + far**2, 0.0)) - along
    nothing = np.zeros(len(far))
    rolled = rotations.matrices(np.stack([nothing, nothing, roll_deg], axis=1))
    x, y, z = np.einsum("fij,fj->fi", rolled, behind_m + reach[:, None] * ray).T
    tilt = np.arcsin(np.clip(away_m[:, 1] / np.maximum(np.hypot(y, z), _NEAR_M), -1.0, 1.0)) - np.arctan2(y, -z)
    pan = np.arctan2(-away_m[:, 0], -away_m[:, 2]) - np.arctan2(-x, -(y * np.sin(tilt) + z * np.cos(tilt)))
    return np.where(far[:, None] < _NEAR_M, np.nan, np.degrees(np.stack([pan, tilt], axis=1)))
