"""4x4 poses. `tf_a_b` maps points of frame b to frame a, so adjacent names cancel: tf_a_c = tf_a_b @ tf_b_c.

Poses are (F, 4, 4) with contiguous samples of each entry: operations work entry by
entry, and reading every sixteenth number costs more than reckoning with it.
"""

from __future__ import annotations

import numpy as np

from zittern.core.rig import rotations
from zittern.core.units import CM_PER_M, Array

__all__ = ["from_parts", "identity", "inverse", "offset_transforms", "orthonormal", "product", "rotation_product"]

_STILL = np.eye(3)


def identity(count: int) -> Array:
    """Poses that change nothing.

    Returns
    -------
    (F, 4, 4) float64, identity matrices.
    """
    out = _blank(count)
    for n in range(3):
        out[n, n] = 1.0
    return out.transpose(2, 0, 1)


def from_parts(position_m: Array, angles_deg: Array, pivot_m: Array | None = None) -> Array:
    """Poses from places and angles, turning about a pivot.

    Parameters
    ----------
    position_m : (F, 3) float64, meters.
    angles_deg: (F, 3) pan, tilt, roll.
    pivot_m : (3,) float64, meters, in the frame of the pose.

    Returns
    -------
    (F, 4, 4) float64, poses, meters.
    """
    out = _blank(len(position_m)).transpose(2, 0, 1)
    steady = len(angles_deg) > 0 and bool(np.all(angles_deg == angles_deg[0]))
    if steady:
        out[:, :3, :3] = rotations.matrices(angles_deg[:1])
    else:
        rotations.matrices(angles_deg, out[:, :3, :3])
    out[:, :3, 3] = position_m
    if pivot_m is not None and np.any(pivot_m):
        out[:, :3, 3] += pivot_m - _rotated_points(out[:, :3, :3], pivot_m)
    return out


def offset_transforms(offsets: Array) -> Array:
    """Layer offsets as poses in the camera's own frame.

    truck is +X, pedestal +Y, dolly -Z; zoom does not move the camera.

    >>> offset_transforms(np.array([[0.0, 0.0, 0.0, 10.0, 0.0, 25.0, 0.0]]))[0, :3, 3]  # truck and dolly in
    array([ 0.1 ,  0.  , -0.25])

    Parameters
    ----------
    offsets: (F, A), degrees / cm / %.

    Returns
    -------
    (F, 4, 4) float64, poses in the frame of the camera, meters.
    """
    moved = np.stack([offsets[:, 3], offsets[:, 4], -offsets[:, 5]], axis=1) / CM_PER_M
    return from_parts(moved, offsets[:, :3])


def product(tf_a_b: Array, tf_b_c: Array) -> Array:
    """Poses one after another, tf_a_c. A constant (broadcast) one is tested once.

    Parameters
    ----------
    tf_a_b : (F, 4, 4) float64, poses, meters.
    tf_b_c : (F, 4, 4) float64, poses, meters.

    Returns
    -------
    (F, 4, 4), which may be the first itself.
    """
    count, steady = len(tf_a_b), tf_b_c.strides[0] == 0
    if steady and tf_a_b.strides[0] == 0 and count > 0:
        return np.broadcast_to(tf_a_b[0] @ tf_b_c[0], tf_a_b.shape)
    if steady and count > 0 and np.array_equal(tf_b_c[0, :3, :3], _STILL):
        return _shifted(tf_a_b, tf_b_c[0, :3, 3])
    first, second = (tf[:1] if tf.strides[0] == 0 else tf for tf in (tf_a_b, tf_b_c))
    out = _blank(count)
    _times(first.transpose(1, 2, 0)[:3, :3], second.transpose(1, 2, 0)[:3], out[:3])
    out[:3, 3] += first[:, :3, 3].T
    return out.transpose(2, 0, 1)


def rotation_product(rotation: Array, by: Array) -> Array:
    """Rotations one after another, as `product`.

    Parameters
    ----------
    rotation : (F, 3, 3) float64, rotation matrices.
    by : (F, 3, 3) float64, rotation matrices.

    Returns
    -------
    (F, 3, 3) float64, rotation matrices.
    """
    out = np.empty((3, 3, max(len(rotation), len(by))))
    _times(rotation.transpose(1, 2, 0), by.transpose(1, 2, 0), out)
    return out.transpose(2, 0, 1)


def _blank(count: int) -> Array:
    """Entries of poses, (4, 4, F), of which all but the last row is still to be written."""
    out = np.zeros((4, 4, count))
    out[3, 3] = 1.0
    return out


def _times(first: Array, second: Array, out: Array) -> None:
    """Product of matrices (3, 3, F) and (3, K, F), written out.

    A product of small matrices for each frame costs half as much again.
    """
    np.multiply(first[:, 0, None], second[None, 0], out=out)
    part = np.empty_like(out)
    for k in (1, 2):
        np.multiply(first[:, k, None], second[None, k], out=part)
        out += part


def _shifted(tf: Array, by: Array) -> Array:
    """Poses moved in their own frame, (3,) metres."""
    if not np.any(by):
        return tf
    out = tf.copy("K")
    out[:, :3, 3] += _rotated_points(tf[:, :3, :3], by)
    return out


def _rotated_points(turn: Array, point: Array) -> Array:
    """One point, (3,), turned by rotations, (F, 3, 3). (F, 3)."""
    x, y, z = point.tolist()
    r = turn.transpose(1, 2, 0)
    return np.asarray((r[:, 0] * x + r[:, 1] * y + r[:, 2] * z).T, dtype=np.float64)


def inverse(tf: Array) -> Array:
    """Inverse of rigid poses.

    Parameters
    ----------
    tf : (F, 4, 4) float64, poses, meters.

    Returns
    -------
    (F, 4, 4) float64, poses, meters.
    """
    out = _blank(len(tf))
    entries = tf.transpose(1, 2, 0)
    back, place = entries[:3, :3].transpose(1, 0, 2), entries[:3, 3]
    out[:3, :3] = back
    out[:3, 3] = -(back[:, 0] * place[0] + back[:, 1] * place[1] + back[:, 2] * place[2])
    return out.transpose(2, 0, 1)


def orthonormal(linear: Array) -> Array:
    """Return the rotation nearest to each 3x3 matrix: the polar factor, mirrored ones turned right-handed.

    Raises numpy.linalg.LinAlgError when the decomposition does not converge.

    Parameters
    ----------
    linear : (F, 3, 3) float64, any matrices.

    Returns
    -------
    (F, 3, 3) float64, rotation matrices.
    """
    left, _, right = np.linalg.svd(linear)
    sign = np.sign(np.linalg.det(left @ right))
    left[:, :, 2] *= np.where(sign < 0, -1.0, 1.0)[:, None]
    return np.asarray(left @ right, dtype=np.float64)
