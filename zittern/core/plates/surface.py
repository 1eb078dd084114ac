"""Where rays meet a plate, in metres along its surface."""

from __future__ import annotations

import numpy as np

from zittern.core.numbers.scope import Scope
from zittern.core.rig import rotations
from zittern.core.shot.plates import MASK_CELLS, Plate
from zittern.core.units import Array, BoolArray

__all__ = ["along_m", "covers", "meets", "radius_m"]

_LEAST = 1e-12
# A ray to the very edge meets the plate, whatever the last digits say.
_ROUNDING = 1e-9


def radius_m(plate: Plate) -> float:
    """Of the cylinder or sphere that it is a part of: width = radius × bend."""
    return plate.width_m / float(np.radians(plate.bend_deg))


def along_m(plate: Plate, scope: Scope, origin_m: Array, rays: Array) -> Array:
    """Where rays meet the surface that a plate is a part of: the first part of `meets`.

    Parameters
    ----------
    origin_m: (F, 3).
    rays: (F, N, 3).

    Returns
    -------
    (F, N, 2) metres.
    """
    return meets(plate, scope, origin_m, rays)[0]


def meets(plate: Plate, scope: Scope, origin_m: Array, rays: Array) -> tuple[Array, Array]:
    """Where rays meet the surface that a plate is a part of, gone on with for ever.

    A flat plate is met where o_z + t d_z = 0. A curved one is hollow towards its own +Z, so the far one of two meetings
    counts: |o + t d - c|² = R² with c = (0, 0, R), of x and z for a cylinder; then u = R atan2(x, R - z), and v = y for
    a cylinder, R asin(y / R) for a sphere.

    Parameters
    ----------
    scope: its frames (F,).
    origin_m: (F, 3) metres in the world.
    rays: (F, N, 3) directions in the world, of any length.

    Returns
    -------
    (F, N, 2) metres to the right and up from the plate's middle, and (F, N) how many of its lengths each ray goes; NaN
    where it does not meet it ahead.
    """
    turn = rotations.matrices(plate.angles_deg(scope))
    o = np.einsum("fji,fj->fi", turn, origin_m - plate.position_m(scope))[:, None, :]
    d = np.einsum("fji,fnj->fni", turn, rays)
    with np.errstate(divide="ignore", invalid="ignore"):
        if plate.shape == "flat":
            t = -o[..., 2] / d[..., 2]
            t = np.where(t > 0.0, t, np.nan)
            at = o + t[..., None] * d
            return np.asarray(at[..., :2]), np.asarray(t)
        radius = radius_m(plate)
        centre = np.array([0.0, 0.0, radius])
        part = (0, 2) if plate.shape == "cylinder" else (0, 1, 2)
        away, ahead = (o - centre)[..., part], d[..., part]
        a = np.maximum(np.sum(ahead * ahead, axis=-1), _LEAST)
        b = np.sum(away * ahead, axis=-1)
        c = np.sum(away * away, axis=-1) - radius * radius
        t = (-b + np.sqrt(b * b - a * c)) / a
        t = np.where(t > 0.0, t, np.nan)
        at = o + t[..., None] * d
        u = radius * np.arctan2(at[..., 0], radius - at[..., 2])
        v = at[..., 1]
        if plate.shape == "sphere":
            v = radius * np.arcsin(np.clip(v / radius, -1.0, 1.0))
    return np.stack([u, v], axis=-1), np.asarray(t)


def covers(plate: Plate, at_m: Array) -> BoolArray:
    """Whether a plate has something opaque at places along its surface.

    Parameters
    ----------
    at_m: (..., 2) metres.

    Returns
    -------
    (...).
    """
    across, up = (each * (1.0 + _ROUNDING) for each in plate.reach_m)
    with np.errstate(invalid="ignore"):
        inside = (np.abs(at_m[..., 0]) <= across) & (np.abs(at_m[..., 1]) <= up)
    mask = plate.mask
    if mask is None:
        return np.asarray(inside)
    size = np.array([plate.width_m, plate.height_m])
    share = np.nan_to_num(at_m) / size + 0.5
    # What goes on past an edge comes back (mirrored), or is what lies at the edge.
    share = (
        np.where(share < 0.0, -share, np.where(share > 1.0, 2.0 - share, share)) if plate.edges == "mirrored" else share
    )
    cells = np.clip((share * MASK_CELLS).astype(int), 0, MASK_CELLS - 1)
    return np.asarray(inside & mask[MASK_CELLS - 1 - cells[..., 1], cells[..., 0]])
