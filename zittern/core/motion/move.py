"""Stage: the move. Reads the mounts' keyed numbers and rides; gives their poses and the bare pose of the lens."""

from __future__ import annotations

import numpy as np

from zittern.core.motion import chain
from zittern.core.motion.evaluation import Evaluation, Part
from zittern.core.motion.rides import rides
from zittern.core.numbers.scope import Scope
from zittern.core.shot.mounts import Mount
from zittern.core.shot.shot import Shot
from zittern.core.units import Array

__all__ = ["bare_behind", "bare_parts", "bare_places", "bare_poses", "local_poses"]


def local_poses(run: Evaluation, mounts: tuple[Mount, ...] | None = None) -> dict[str, Array]:
    """Keyed pose of each mount in its parent, or of some, by id. (F, 4, 4)."""
    still = chain.held_mounts(run.shot)

    def local_pose_of(mount: Mount) -> Array:
        at_rest = mount.id in still
        return run.memoized("mount", (mount.posture, at_rest), lambda: chain.local_pose(mount, run.scope, at_rest))

    return {mount.id: local_pose_of(mount) for mount in (run.shot.mounts if mounts is None else mounts)}


def bare_poses(shot: Shot, scope: Scope) -> Array:
    """tf_world_lens without operator, springs and layers, at the frames of a scope.

    Returns
    -------
    (F, 4, 4) float64, poses in the world, meters.
    """
    return chain.lens_pose(shot.mounts, chain.local_poses(shot, scope), chain.RigOffsets(rides(shot, scope)))


def bare_places(shot: Shot, scope: Scope) -> Array:
    """Return the position of the bare lens. Poses are computed only up to the last mount that rides on an object.

    Returns
    -------
    (F, 3) metres.
    """
    riding = max((n for n, mount in enumerate(shot.mounts, start=1) if mount.ride is not None), default=0)
    place = chain.places(shot.mounts[riding:], chain.held_mounts(shot), scope)
    if not riding:
        return place
    base = bare_behind(shot, scope, shot.mounts[:riding])
    return np.asarray(np.einsum("fij,fj->fi", base[:, :3, :3], place) + base[:, :3, 3])


def bare_behind(shot: Shot, scope: Scope, mounts: tuple[Mount, ...]) -> Array:
    """tf_world_mount of the last of some mounts, from the ground on, without operator, springs and layers.

    Returns
    -------
    (F, 4, 4) float64, poses in the world, meters.
    """
    still = chain.held_mounts(shot)
    locals_ = {mount.id: chain.local_pose(mount, scope, mount.id in still) for mount in mounts}
    *_, pose = chain.poses_along(mounts, locals_, chain.RigOffsets(rides(shot, scope, mounts)))
    return pose


def bare_parts(shot: Shot) -> tuple[Part, ...]:
    """Return the inputs of the bare pose of the lens."""
    still = chain.held_mounts(shot)
    return tuple((mount.bare, mount.id in still) for mount in shot.mounts)
