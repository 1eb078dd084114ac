"""Rotations as vectors (axis x angle, radians), and products of many steps.

Rodrigues' formula: R = 1 + sin(a) K + (1 - cos(a)) K^2 with K the cross-product matrix of the unit axis (Murray, Li and
Sastry 1994, A Mathematical Introduction to Robotic Manipulation, 2.14).
"""

from __future__ import annotations

import numpy as np

from zittern.core.units import Array

__all__ = ["between", "chained", "from_vectors", "vectors"]

# Smaller angles than this (radians) are written as series: their sines divided by them are rounding.
_SMALL_RAD = 1e-6
# From here on (radians) the axis is read from the symmetric part of the matrix: the antisymmetric one vanishes at half
# a turn.
_NEAR_HALF_RAD = 3.1


def from_vectors(vectors_rad: Array) -> Array:
    """Rotate from vectors: about their direction, by their length.

    >>> from_vectors(np.array([[0.0, np.pi / 2.0, 0.0]])).round(6)[0] @ np.array([1.0, 0.0, 0.0])
    array([ 0.,  0., -1.])

    Parameters
    ----------
    vectors_rad : (F, 3) float64, radians.

    Returns
    -------
    (F, 3, 3) float64, rotation matrices.
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
    out = np.empty((3, 3, len(vectors_rad))).transpose(2, 0, 1)
    out[:, 0, 0], out[:, 0, 1], out[:, 0, 2] = 1.0 - versine * (yy + zz), xy - sz, xz + sy
    out[:, 1, 0], out[:, 1, 1], out[:, 1, 2] = xy + sz, 1.0 - versine * (xx + zz), yz - sx
    out[:, 2, 0], out[:, 2, 1], out[:, 2, 2] = xz - sy, yz + sx, 1.0 - versine * (xx + yy)
    return out


def vectors(rotation: Array) -> Array:
    """Return the shortest turn that each rotation is, 0 to pi.

    >>> quarter = np.array([[[0.0, -1.0, 0.0], [1.0, 0.0, 0.0], [0.0, 0.0, 1.0]]])
    >>> vectors(quarter).round(4)
    array([[0.    , 0.    , 1.5708]])

    Parameters
    ----------
    rotation : (F, 3, 3) float64, rotation matrices.

    Returns
    -------
    (F, 3) float64, radians.
    """
    r = rotation.transpose(1, 2, 0)
    axis = 0.5 * np.stack([r[2, 1] - r[1, 2], r[0, 2] - r[2, 0], r[1, 0] - r[0, 1]])
    cosine = 0.5 * (r[0, 0] + r[1, 1] + r[2, 2] - 1.0)
    out, angle = _about(axis, cosine)
    far = angle > _NEAR_HALF_RAD
    if np.any(far):
        out[:, far] = _near_half(rotation[far], axis.T[far], angle[far]).T
    return out.T


def between(start: Array, stop: Array) -> Array:
    """Return the shortest rotations from rotations to others, in the frames of the first.

    `vectors` of their quotients, with only the required entries.

    Parameters
    ----------
    start : (F, 3, 3) float64, rotation matrices.
    stop : (F, 3, 3) float64, rotation matrices.

    Returns
    -------
    (F, 3), radians.
    """
    a, b = start.transpose(1, 2, 0), stop.transpose(1, 2, 0)

    def entry(i: int, j: int) -> Array:
        return np.asarray(a[0, i] * b[0, j] + a[1, i] * b[1, j] + a[2, i] * b[2, j], dtype=np.float64)

    axis = np.stack([entry(2, 1) - entry(1, 2), entry(0, 2) - entry(2, 0), entry(1, 0) - entry(0, 1)])
    axis *= 0.5
    out, angle = _about(axis, 0.5 * (entry(0, 0) + entry(1, 1) + entry(2, 2) - 1.0))
    far = angle > _NEAR_HALF_RAD
    if np.any(far):
        out[:, far] = vectors(np.swapaxes(start[far], 1, 2) @ stop[far]).T
    return out.T


def _about(axis: Array, cosine: Array) -> tuple[Array, Array]:
    """Rotate about axes (3, F) that are as long as the sines of their angles: (3, F), and the angles, (F,)."""
    sine = np.sqrt(axis[0] * axis[0] + axis[1] * axis[1] + axis[2] * axis[2])
    angle = np.arctan2(sine, cosine)
    seen = sine > _SMALL_RAD
    return axis * np.divide(angle, sine, out=np.ones_like(sine), where=seen), angle


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

    By doubling (Hillis and Steele 1986, Data Parallel Algorithms): a dozen products of whole arrays instead of a loop.

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
