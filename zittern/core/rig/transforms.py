"""4x4 poses. `tf_a_b` takes points of frame b to frame a, so neighbours cancel: tf_a_c = tf_a_b @ tf_b_c."""

from __future__ import annotations

import numpy as np

from zittern.core.rig import rotations
from zittern.core.units import CM_PER_M, Array

__all__ = ["from_parts", "identity", "inverse", "offset_transforms", "orthonormal", "product"]


def identity(count: int) -> Array:
    """Poses that change nothing.

    Returns
    -------
    (F, 4, 4).
    """
    return np.tile(np.eye(4), (count, 1, 1))


def from_parts(position_m: Array, angles_deg: Array, pivot_m: Array | None = None) -> Array:
    """Poses from places and angles, turning about a pivot.

    Parameters
    ----------
    position_m: (F, 3).
    angles_deg: (F, 3) pan, tilt, roll.
    pivot_m: (3,).

    Returns
    -------
    (F, 4, 4).
    """
    out = np.zeros((len(position_m), 4, 4))
    steady = len(angles_deg) > 0 and bool(np.all(angles_deg == angles_deg[0]))
    if steady:
        out[:, :3, :3] = rotations.matrices(angles_deg[:1])
    else:
        rotations.matrices(angles_deg, out[:, :3, :3])
    out[:, :3, 3] = position_m
    out[:, 3, 3] = 1.0
    if pivot_m is not None and np.any(pivot_m):
        out[:, :3, 3] += pivot_m - out[:, :3, :3] @ pivot_m
    return out


def offset_transforms(offsets: Array) -> Array:
    """Layer offsets as poses in the camera's own frame.

    truck is +X, pedestal +Y, dolly -Z; zoom does not move the camera.

    >>> offset_transforms(np.array([[0.0, 0.0, 0.0, 10.0, 0.0, 25.0, 0.0]]))[0, :3, 3]  # truck and dolly in
    array([ 0.1 ,  0.  , -0.25])

    Parameters
    ----------
    offsets: (F, 9) in AXES order, degrees / cm / %.

    Returns
    -------
    (F, 4, 4).
    """
    moved = np.stack([offsets[:, 3], offsets[:, 4], -offsets[:, 5]], axis=1) / CM_PER_M
    return from_parts(moved, offsets[:, :3])


def product(tf_a_b: Array, tf_b_c: Array) -> Array:
    """Poses one after another, tf_a_c. Where the second is the same in all frames (broadcast), it is one product of
    large matrices, not many of small ones.

    Parameters
    ----------
    tf_a_b: (F, 4, 4).
    tf_b_c: (F, 4, 4).

    Returns
    -------
    (F, 4, 4).
    """
    if tf_b_c.strides[0] != 0 or len(tf_b_c) < 2:
        return tf_a_b @ tf_b_c
    if tf_a_b.strides[0] == 0:
        return np.broadcast_to(tf_a_b[0] @ tf_b_c[0], tf_a_b.shape)
    return np.asarray((tf_a_b.reshape(-1, 4) @ tf_b_c[0]).reshape(tf_a_b.shape), dtype=np.float64)


def inverse(tf: Array) -> Array:
    """Inverse of rigid poses.

    Parameters
    ----------
    tf: (F, 4, 4).

    Returns
    -------
    (F, 4, 4).
    """
    out = identity(len(tf))
    turned = np.swapaxes(tf[:, :3, :3], 1, 2)
    out[:, :3, :3] = turned
    out[:, :3, 3] = -(turned @ tf[:, :3, 3:])[:, :, 0]
    return out


def orthonormal(linear: Array) -> Array:
    """The rotation nearest to each 3x3 matrix: the polar factor, mirrored ones turned right-handed.

    Raises numpy.linalg.LinAlgError when the decomposition does not converge.

    Parameters
    ----------
    linear: (F, 3, 3).

    Returns
    -------
    (F, 3, 3).
    """
    left, _, right = np.linalg.svd(linear)
    sign = np.sign(np.linalg.det(left @ right))
    left[:, :, 2] *= np.where(sign < 0, -1.0, 1.0)[:, None]
    return np.asarray(left @ right, dtype=np.float64)
