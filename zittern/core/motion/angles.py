"""Stage: angles. Reads the poses of the chain; gives pan, tilt, roll of the lens in the world, continuous in time.

A rotation can be written in two ways, (p, t, r) and (p + 180, 180 - t, r + 180), each up to whole turns; neighbouring frames must not change
from one to another without need. With one mount the bare angles are the keyed ones. Through several, the bare move is followed from frame to
frame over the whole shot, once, starting at the sum of the keyed angles. What the operator, springs and layers do is then put on little by little, and
the angles followed along: that depends on the frame alone, and keeps what is continuous continuous (homotopy lifting).
"""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from zittern.core.motion.move import bare_poses
from zittern.core.motion.run import Run
from zittern.core.rig import chain, rotations
from zittern.core.units import Array

__all__ = ["bare_deg", "moved_deg"]

# Layers are put on in steps of no more than this.
_STEP_DEG = 40.0
# No path is followed through more steps than this; swings that large are no camera's.
_MOST_STEPS = 60
_CHUNK_FRAMES = 16_384


def bare_deg(run: Run, pose: Array) -> Array:
    """Of the bare move. pose: tf_world_lens (F, 4, 4) -> (F, 3) degrees."""
    mounts = run.shot.mounts
    if len(mounts) == 1 and mounts[0].ride is None and not chain.held(run.shot):
        return mounts[0].angles_deg(run.scope)
    whole = np.arange(run.shot.first_frame, run.shot.last_frame + 1, dtype=np.float64)
    made_from = (*(run.key_of(mount.bare) for mount in mounts), *sorted(chain.held(run.shot)))
    table = run.cache.get(("angles", run.shot.fps.num, run.shot.fps.den, run.span, *made_from), lambda: _followed(run, whole))
    row = np.clip(np.round(run.frames - whole[0]), 0, len(whole) - 1).astype(np.int64)
    return rotations.nearest_angles(pose[:, :3, :3], table[row])


def _followed(run: Run, frames: Array) -> Array:
    """Angles of the bare move at all whole frames, each next to the one before. (N,) -> (N, 3) degrees."""
    start = np.sum([mount.angles_deg(run.scope.over(frames[:1])) for mount in run.shot.mounts], axis=0)
    out = np.empty((len(frames), 3))
    for first in range(0, len(frames), _CHUNK_FRAMES):
        part = slice(first, first + _CHUNK_FRAMES)
        pose = bare_poses(run.shot, run.scope.over(frames[part]))
        out[part] = rotations.continuous(pose[:, :3, :3], start[0])
        start = out[part][-1:]
    return out


def moved_deg(run: Run, bare: Array, largest_deg: float, turned: Callable[[float], Array]) -> Array:
    """With all that is on the bare move. bare: (F, 3) degrees; largest_deg: how far it turns the lens at most; turned(share): rotation of the lens with a
    share of it, (F, 3, 3). -> (F, 3) degrees.
    """
    steps = min(max(1, int(np.ceil(largest_deg / _STEP_DEG))), _MOST_STEPS)
    angles = bare
    for step in range(1, steps + 1):
        angles = rotations.nearest_angles(turned(step / steps), angles)
    return angles
