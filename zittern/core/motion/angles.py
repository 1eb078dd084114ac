"""Stage: angles. Reads the poses of the chain; gives pan, tilt, roll of the lens in the world, continuous in time.

A rotation has two representations, (p, t, r) and (p + 180, 180 - t, r + 180), each up to full turns; adjacent
frames must not change from one to another without need. With one mount the bare angles are the keyed ones. Through
several, the bare move is followed from frame to frame over the whole shot, once, starting at the sum of the keyed
angles. The motion of operator, springs and layers is then added gradually, and the angles are followed: that
depends on the frame alone, and keeps what is continuous continuous (homotopy lifting). Near the zenith that is not
enough: a sway that goes round it would take another half turn on each side. There the lens is followed from frame to
frame as well.
"""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from zittern.core.motion import chain
from zittern.core.motion.evaluation import Evaluation
from zittern.core.motion.move import bare_parts, bare_poses
from zittern.core.rig import rotations
from zittern.core.shot.shot import Shot
from zittern.core.units import Array

__all__ = ["angles_near", "bare_deg", "followed", "moved_deg", "steep"]

# Layers are put on in steps of no more than this.
_STEP_DEG = 40.0
# No path is followed through more steps than this; swings that large are no camera's.
_MOST_STEPS = 60
_CHUNK_FRAMES = 16_384
# Looking up or down more steeply than this, a camera's sway can go round the zenith.
_STEEP_DEG = 65.0


def bare_deg(run: Evaluation, pose: Array) -> Array:
    """Return the angles of the bare move.

    Parameters
    ----------
    pose: tf_world_lens (F, 4, 4).

    Returns
    -------
    (F, 3) degrees.
    """
    mounts = run.shot.mounts
    if len(mounts) == 1 and mounts[0].ride is None and not chain.held_mounts(run.shot):
        return mounts[0].angles_deg(run.scope)
    start = np.sum([mount.angles_deg(run.scope.over(np.array(run.span[:1]))) for mount in mounts], axis=0)[0]

    first, count = run.span[0], run.shot.frame_count
    # Callers that need all whole frames of the shot have their poses.
    all_there = len(run.frames) == count and np.array_equal(run.frames, first + np.arange(count))

    def rotation(frames: Array) -> Array:
        if all_there:
            return pose[(frames - first).astype(np.int64), :3, :3]
        return bare_poses(run.shot, run.scope.over(frames))[:, :3, :3]

    return angles_near(
        run, pose[:, :3, :3], run.table("angles", bare_parts(run.shot), lambda: followed(run.shot, rotation, start))
    )


def followed(shot: Shot, rotation: Callable[[Array], Array], start_deg: Array) -> Array:
    """Angles at all whole frames of a shot, each next to the one before. rotation: at frames (F,) -> (F, 3, 3).

    Parameters
    ----------
    start_deg: (3,) that the first lie next to.

    Returns
    -------
    (N, 3) degrees.
    """
    frames = np.arange(shot.first_frame, shot.last_frame + 1, dtype=np.float64)
    out = np.empty((len(frames), 3))
    for first in range(0, len(frames), _CHUNK_FRAMES):
        part = slice(first, first + _CHUNK_FRAMES)
        out[part] = rotations.continuous(rotation(frames[part]), start_deg)
        start_deg = out[part][-1]
    return out


def angles_near(run: Evaluation, rotation: Array, table: Array) -> Array:
    """Return the angles of rotations that lie next to those of the nearest whole frame.

    Parameters
    ----------
    rotation : (F, 3, 3) float64, rotation matrices.
    table: (N, 3) degrees at all whole frames.

    Returns
    -------
    (F, 3) degrees.
    """
    row = np.clip(np.round(run.frames - run.shot.first_frame), 0, len(table) - 1).astype(np.int64)
    return rotations.nearest_angles(rotation, table[row])


def steep(most_deg: Array) -> bool:
    """Return whether a shot looks up or down so steeply that pan and roll may diverge.

    They must then be followed from frame to frame.

    Parameters
    ----------
    most_deg: (1,): the steepest it looks, either way.
    """
    return float(most_deg[0]) > _STEEP_DEG


def moved_deg(bare: Array, turned_deg: Array, turned: Callable[[Array], Array]) -> Array:
    """Return the angles with all offsets on the bare move. turned(share).

    Rotation of the lens with a share of it at each frame, (F,) -> (F, 3, 3).

    How many steps a frame takes depends on that frame alone.

    Parameters
    ----------
    bare: (F, 3) degrees.
    turned_deg: (F,) rotation of the lens.

    Returns
    -------
    (F, 3) degrees.
    """
    steps = np.clip(np.ceil(turned_deg / _STEP_DEG), 1, _MOST_STEPS)
    angles = bare
    for step in range(1, int(steps.max(initial=1)) + 1):
        angles = rotations.nearest_angles(turned(np.minimum(step / steps, 1.0)), angles)
    return angles
