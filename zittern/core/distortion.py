"""Radial distortion of a lens after Brown and Conrady (D. C. Brown, Decentering distortion of lenses, 1966), as camera
calibration writes it: a place of the picture is told as a tangent, its distance from the axis of the lens over the
focal length, and what a pinhole shows at p is seen at p (1 + k1 r^2 + k2 r^4), r = |p|.

Going out from the axis that turns back where k1 is well below 0, which no lens does: from there on the picture goes on
in proportion, so that each place of it shows one thing.
"""

from __future__ import annotations

import numpy as np

from zittern.core.units import Array

__all__ = ["distorted", "turn_back", "undistorted"]

# Where the picture never turns back, the way out is never shorter than this share of it: 1 - k1^2 / 4 k2 with
# k2 = 9 k1^2 / 20.
_LEAST_SHARE = 4.0 / 9.0
_MOST_STEPS = 60
_NEAR = 1e-13


def distorted(flat: Array, k: Array) -> Array:
    """Where the lens shows what a pinhole shows at some places.

    >>> distorted(np.array([[0.0, 0.5]]), np.array([[-0.1, 0.0]]))
    array([[0.    , 0.4875]])

    Parameters
    ----------
    flat: (F, ..., 2) tangents.
    k: (F, 2) k1 and k2.

    Returns
    -------
    (F, ..., 2) tangents.
    """
    k1, k2 = _beside(k, flat)
    squared = np.minimum(np.sum(flat * flat, axis=-1), _beside(turn_back(k)[:, None], flat)[0])
    return np.asarray(flat * _share(squared, k1, k2)[..., None])


def undistorted(seen: Array, k: Array) -> Array:
    """What a pinhole shows where the lens shows it at some places: the inverse of `distorted`.

    Parameters
    ----------
    seen: (F, ..., 2) tangents.
    k: (F, 2) k1 and k2.

    Returns
    -------
    (F, ..., 2) tangents.
    """
    if not np.any(k):
        return seen
    k1, k2 = _beside(k, seen)
    wanted = np.linalg.norm(seen, axis=-1)
    edge = _beside(np.sqrt(turn_back(k))[:, None], seen)[0]
    high = np.minimum(np.broadcast_to(edge, wanted.shape), wanted / _LEAST_SHARE)
    low = np.zeros_like(wanted)
    radius = np.minimum(wanted, high)
    for _ in range(_MOST_STEPS):
        squared = radius * radius
        off = radius * _share(squared, k1, k2) - wanted
        low, high = np.where(off < 0.0, radius, low), np.where(off < 0.0, high, radius)
        slope = 1.0 + squared * (3.0 * k1 + 5.0 * squared * k2)
        # Newton's step, or the middle where that leaves the stretch in which it must be.
        with np.errstate(divide="ignore", invalid="ignore"):
            after = radius - off / slope
        after = np.where((after >= low) & (after <= high), after, 0.5 * (low + high))
        done = np.all(np.abs(after - radius) <= _NEAR * (1.0 + wanted))
        radius = after
        if done:
            break
    beyond = wanted > edge * _share(edge * edge, k1, k2)
    radius = np.where(beyond, wanted / _share(edge * edge, k1, k2), radius)
    return np.asarray(seen * (radius / np.where(wanted > 0.0, wanted, 1.0))[..., None])


def turn_back(k: Array) -> Array:
    """How far from the axis the formula turns back: the least r^2 > 0 with 1 + 3 k1 r^2 + 5 k2 r^4 = 0.

    Parameters
    ----------
    k: (F, 2) k1 and k2.

    Returns
    -------
    (F,) squared tangents, infinite where it never does.
    """
    half, last = 1.5 * k[:, 0], 5.0 * k[:, 1]
    under = half * half - last
    with np.errstate(divide="ignore", invalid="ignore"):
        # The smaller positive root of last s^2 + 2 half s + 1, in the form that loses no digits.
        squared = 1.0 / (np.sqrt(np.maximum(under, 0.0)) - half)
    turns = (under >= 0.0) & (squared > 0.0) & np.isfinite(squared)
    return np.where(turns, squared, np.inf)


def _share(squared: Array, k1: Array, k2: Array) -> Array:
    """1 + k1 r^2 + k2 r^4; 1 at r without end."""
    with np.errstate(invalid="ignore"):
        return np.where(np.isfinite(squared), 1.0 + squared * (k1 + squared * k2), 1.0)


def _beside(k: Array, places: Array) -> tuple[Array, ...]:
    """Columns of (F, C), each shaped so that it counts for all places of its frame."""
    return tuple(column.reshape(-1, *(1,) * (places.ndim - 2)) for column in k.T)
