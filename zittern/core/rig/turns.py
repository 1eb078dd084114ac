"""Rotations as vectors (axis x angle, radians), and products of many steps.

Rodrigues' formula: R = 1 + sin(a) K + (1 - cos(a)) K^2 with K the cross-product matrix of the unit axis (Murray, Li and
Sastry 1994, A Mathematical Introduction to Robotic Manipulation, 2.14).
"""

from __future__ import annotations

import numpy as np

from zittern.core.units import Array

__all__ = ["chained", "from_vectors", "vectors"]

# Smaller angles than this (radians) are written as series: their sines divided by them are rounding.
_SMALL_RAD = 1e-6
# From here on (radians) the axis is read from the symmetric part of the matrix: the antisymmetric one vanishes at half
# a turn.
_NEAR_HALF_RAD = 3.1


def from_vectors(vectors_rad: Array) -> Array:
    """Turns from vectors: about their direction, by their length.

    >>> from_vectors(np.array([[0.0, np.pi / 2.0, 0.0]])).round(6)[0] @ np.array([1.0, 0.0, 0.0])
    array([ 0.,  0., -1.])

    Parameters
    ----------
    vectors_rad: (F, 3).

    Returns
    -------
    (F, 3, 3).
    """
    x, y, z = np.ascontiguousarray(vectors_rad.T)
    xx, yy, zz = x * x, y * y, z * z
    angle = np.sqrt(xx + yy + zz)
    small = angle < _SMALL_RAD
    safe = np.where(small, 1.0, angle)
    sine = np.where(small, 1.0, np.sin(safe) / safe)
    versine = np.where(small, 0.5, (1.0 - np.cos(safe)) / (safe * safe))
    xy, xz, yz = versine * x * y, versine * x * z, versine * y * z
    sx, sy, sz = sine * x, sine * y, sine * z
    # Written out: the products of matrices cost twice as much.
    out = np.empty((len(vectors_rad), 3, 3))
    out[:, 0, 0], out[:, 0, 1], out[:, 0, 2] = 1.0 - versine * (yy + zz), xy - sz, xz + sy
    out[:, 1, 0], out[:, 1, 1], out[:, 1, 2] = xy + sz, 1.0 - versine * (xx + zz), yz - sx
    out[:, 2, 0], out[:, 2, 1], out[:, 2, 2] = xz - sy, yz + sx, 1.0 - versine * (xx + yy)
    return out


def vectors(rotation: Array) -> Array:
    """The shortest turn that each rotation is, 0 to pi.

    >>> quarter = np.array([[[0.0, -1.0, 0.0], [1.0, 0.0, 0.0], [0.0, 0.0, 1.0]]])
    >>> vectors(quarter).round(4)
    array([[0.    , 0.    , 1.5708]])

    Parameters
    ----------
    rotation: (F, 3, 3).

    Returns
    -------
    (F, 3).
    """
    r = rotation
    axis = 0.5 * np.stack([r[:, 2, 1] - r[:, 1, 2], r[:, 0, 2] - r[:, 2, 0], r[:, 1, 0] - r[:, 0, 1]], axis=1)
    sine = np.linalg.norm(axis, axis=1)
    cosine = 0.5 * (np.trace(r, axis1=1, axis2=2) - 1.0)
    angle = np.arctan2(sine, cosine)
    out = axis * np.where(sine > _SMALL_RAD, angle / np.where(sine > _SMALL_RAD, sine, 1.0), 1.0)[:, None]
    far = angle > _NEAR_HALF_RAD
    if np.any(far):
        out[far] = _near_half(r[far], axis[far], angle[far])
    return np.asarray(out, dtype=np.float64)


def _near_half(rotation: Array, axis: Array, angle: Array) -> Array:
    """Near half a turn, from (R + R^T) / 2 = cos + (1 - cos) n n^T."""
    symmetric = 0.5 * (rotation + np.swapaxes(rotation, 1, 2)) - np.cos(angle)[:, None, None] * np.eye(3)
    column = np.argmax(np.abs(np.einsum("fii->fi", symmetric)), axis=1)
    n = symmetric[np.arange(len(column)), :, column]
    n = n / np.linalg.norm(n, axis=1)[:, None]
    side = np.where(np.sum(n * axis, axis=1) < 0.0, -1.0, 1.0)
    return np.asarray(n * (side * angle)[:, None], dtype=np.float64)


def chained(steps: Array) -> Array:
    """Products of all steps up to each one, the latest on the left: out[i] = steps[i] ... steps[1] steps[0].

    By doubling (Hillis and Steele 1986, Data Parallel Algorithms): a dozen products of whole arrays in place of one by
    one.

    Parameters
    ----------
    steps: (N, n, n).

    Returns
    -------
    (N, n, n).
    """
    out = steps.copy()
    reach = 1
    while reach < len(out):
        out[reach:] = out[reach:] @ out[:-reach]
        reach *= 2
    return out
