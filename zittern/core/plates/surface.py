"""Intersections of rays with a plate, in meters along its surface."""

from __future__ import annotations

import numpy as np

from zittern.core.numbers.scope import Scope
from zittern.core.rig import rotations
from zittern.core.rig.vectors import turned
from zittern.core.shot.plates import MASK_CELLS, Plate
from zittern.core.units import Array, BoolArray, IntArray

__all__ = ["along_m", "covers", "meets", "radius_m"]

_LEAST = 1e-12
# A ray to the very edge meets the plate, whatever the last digits say.
_ROUNDING = 1e-9


def radius_m(plate: Plate) -> float:
    """Return the radius of its cylinder or sphere: width = radius × bend."""
    return plate.width_m / float(np.radians(plate.bend_deg))


def along_m(plate: Plate, scope: Scope, origin_m: Array, rays: Array) -> Array:
    """Return the first intersection of rays with the extended surface of a plate: the first part of `meets`.

    Parameters
    ----------
    origin_m : (F, 3) float64, meters, in the world.
    rays : (F, N, 3) float64, directions, in the world.

    Returns
    -------
    (F, N, 2) metres.
    """
    return meets(plate, scope, origin_m, rays)[0]


def meets(plate: Plate, scope: Scope, origin_m: Array, rays: Array) -> tuple[Array, Array]:
    """Return the intersections of rays with the infinite surface of a plate.

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
    (F, N, 2) meters right and up from the plate's center, and (F, N) distance in ray lengths; NaN without a hit ahead.
    """
    back = np.swapaxes(rotations.matrices(plate.angles_deg(scope)), 1, 2)
    o_x, o_y, o_z = np.moveaxis(back @ (origin_m - plate.position_m(scope))[:, :, None], 1, 0)
    d_x, d_y, d_z = np.moveaxis(turned(back, rays), 2, 0)
    with np.errstate(divide="ignore", invalid="ignore"):
        if plate.shape == "flat":
            t = -o_z / d_z
            t[~(t > 0.0)] = np.nan
            return np.moveaxis(np.stack([o_x + t * d_x, o_y + t * d_y]), 0, 2), t
        radius = radius_m(plate)
        o_z = o_z - radius
        a, b = d_x * d_x + d_z * d_z, o_x * d_x + o_z * d_z
        c = o_x * o_x + o_z * o_z - radius * radius
        if plate.shape == "sphere":
            a, b, c = a + d_y * d_y, b + o_y * d_y, c + o_y * o_y
        a = np.maximum(a, _LEAST)
        t = (-b + np.sqrt(b * b - a * c)) / a
        t[~(t > 0.0)] = np.nan
        u = radius * np.arctan2(o_x + t * d_x, -(o_z + t * d_z))
        v = o_y + t * d_y
        if plate.shape == "sphere":
            v = radius * np.arcsin(np.clip(v / radius, -1.0, 1.0))
    return np.moveaxis(np.stack([u, v]), 0, 2), t


def covers(plate: Plate, at_m: Array) -> BoolArray:
    """Return whether a plate is opaque at points along its surface.

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

    def cell(at: Array, size: float) -> IntArray:
        share = np.nan_to_num(at) / size + 0.5
        # Points past an edge are mirrored, or clamped to the edge.
        if plate.edges == "mirrored":
            share = np.where(share < 0.0, -share, np.where(share > 1.0, 2.0 - share, share))
        return np.clip((share * MASK_CELLS).astype(np.int64), 0, MASK_CELLS - 1)

    row, column = MASK_CELLS - 1 - cell(at_m[..., 1], plate.height_m), cell(at_m[..., 0], plate.width_m)
    return np.asarray(inside & mask[row, column])
