"""World poses along the rig.

The product over the mounts of keyed local pose, ride, springs, and offsets of the layers on that mount.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field

import numpy as np

from zittern.core.numbers.scope import Scope
from zittern.core.rig import rotations, transforms, turns
from zittern.core.shot.mounts import Mount
from zittern.core.shot.shot import Shot
from zittern.core.units import Array

__all__ = [
    "HOLD", "LENS", "RigOffsets", "at_lens", "carried_on", "held_mounts", "lens_pose", "local_pose", "local_poses",
    "needed_pose", "numbers_of", "places", "poses_along", "step", "with_deflection",
]  # fmt: skip

# Target of layers without a mount: at the lens end, after the last mount.
LENS = ""
# The hold on the framing acts after everything else.
HOLD = "·hold"


@dataclass(frozen=True, slots=True)
class RigOffsets:
    """Contributions on the mounts besides their keyed poses, by mount id.

    carried: effect of a ride on a world pose, (F, 3, 7): rotation and shift of its position (3, 4), rotation of its
    orientation (3, 3). given: deflection by springs, (F, 6): meters in the world, then a rotation in its own frame
    (radians); HOLD: the hold on the framing. offsets: (F, A) of the layers, by mount id or LENS, degrees / cm / %.
    """

    carried: Mapping[str, Array] = field(default_factory=dict)
    given: Mapping[str, Array] = field(default_factory=dict)
    offsets: Mapping[str, Array] = field(default_factory=dict)

    def part(self, share: Array) -> RigOffsets:
        """Return the offsets with a share of the deflection and of the layers at each frame.

        Parameters
        ----------
        share : (F,) float64, share from 0 to 1.
        """
        return RigOffsets(
            self.carried,
            *({name: values * share[:, None] for name, values in each.items()} for each in (self.given, self.offsets)),
        )


def held_mounts(shot: Shot) -> frozenset[str]:
    """Return ids of static mounts: muted ones, and with soloed mounts all others."""
    soloed = any(mount.solo for mount in shot.mounts)
    return frozenset(mount.id for mount in shot.mounts if mount.mute or (soloed and not mount.solo))


def local_pose(mount: Mount, scope: Scope, still: bool = False, angles_deg: Array | None = None) -> Array:
    """Keyed pose of a mount in its parent, with its length. still: as at the shot's first frame.

    Parameters
    ----------
    angles_deg: (F, 3) in place of the keyed ones.

    Returns
    -------
    (F, 4, 4), metres.
    """
    if still or (angles_deg is None and mount.rigid and len(scope.frames) > 1):
        one = local_pose(mount, scope.over(np.array([scope.first_frame])))
        return np.broadcast_to(one, (len(scope.frames), 4, 4))
    angles = mount.angles_deg(scope) if angles_deg is None else angles_deg
    out = transforms.from_parts(mount.position_m(scope), angles, np.array(mount.pivot_m))
    if not mount.length_m.nothing:
        out[:, :3, 3] -= out[:, :3, 2] * mount.length_m.sample(scope)[:, None]
    return out


def places(mounts: tuple[Mount, ...], still: frozenset[str], scope: Scope) -> Array:
    """Return the position of the child of the last of some mounts.

    In the parent frame of the first, by their keyed numbers. Mounts at the end that only turn are skipped. still: ids
    of those that hold still.

    Returns
    -------
    (F, 3) metres.
    """
    first = scope.over(np.array([scope.first_frame]))
    point = np.zeros((1, 3))
    for mount in reversed(mounts):
        at = first if mount.id in still or mount.rigid else scope
        arm = point - np.array(mount.pivot_m)
        if not mount.length_m.nothing:
            arm = arm - mount.length_m.sample(at)[:, None] * (0.0, 0.0, 1.0)
        if np.any(arm):
            arm = np.einsum("fij,fj->fi", *_as_long(rotations.matrices(mount.angles_deg(at)), arm))
        point = arm + mount.position_m(at) + np.array(mount.pivot_m)
    return np.broadcast_to(point, (len(scope.frames), 3))


def _as_long(turn: Array, arm: Array) -> tuple[Array, Array]:
    """Return rotations and vectors, broadcast to the same number of frames. (F, 3, 3), (F, 3)."""
    count = len(turn) if len(arm) == 1 else len(arm)
    return np.broadcast_to(turn, (count, 3, 3)), np.broadcast_to(arm, (count, 3))


def local_poses(shot: Shot, scope: Scope) -> dict[str, Array]:
    """Keyed poses of all mounts in their parents, by id. (F, 4, 4)."""
    still = held_mounts(shot)
    return {mount.id: local_pose(mount, scope, mount.id in still) for mount in shot.mounts}


def poses_along(mounts: tuple[Mount, ...], locals_: Mapping[str, Array], on: RigOffsets) -> Iterator[Array]:
    """Yield the world pose after each mount, from the ground on, with all contributions.

    Parameters
    ----------
    locals_: (F, 4, 4) by mount id.

    Returns
    -------
    (F, 4, 4) each.
    """
    pose: Array | None = None
    for mount in mounts:
        pose = step(mount, pose, locals_[mount.id], on)
        yield pose


def step(mount: Mount, base: Array | None, local: Array, on: RigOffsets) -> Array:
    """Return the world pose after a mount, from its parent pose.

    Parameters
    ----------
    base: (F, 4, 4); nothing for the ground.
    local: (F, 4, 4) in what carries it.

    Returns
    -------
    (F, 4, 4) float64, poses in the world, meters.
    """
    pose = local if base is None else transforms.product(base, local)
    if mount.id in on.carried:
        pose = carried_on(pose, on.carried[mount.id])
    if mount.id in on.given:
        pose = with_deflection(pose, on.given[mount.id])
    if mount.id in on.offsets:
        pose = transforms.product(pose, transforms.offset_transforms(on.offsets[mount.id]))
    return pose


def lens_pose(mounts: tuple[Mount, ...], locals_: Mapping[str, Array], on: RigOffsets) -> Array:
    """tf_world_lens.

    Parameters
    ----------
    locals_: (F, 4, 4) by mount id.

    Returns
    -------
    (F, 4, 4) float64, poses in the world, meters.
    """
    *_, pose = poses_along(mounts, locals_, on)
    return at_lens(pose, on)


def at_lens(pose: Array, on: RigOffsets) -> Array:
    """Return the lens, from the world pose behind the last mount.

    Parameters
    ----------
    pose : (F, 4, 4) float64, poses in the world, meters.

    Returns
    -------
    tf_world_lens (F, 4, 4).
    """
    if LENS in on.offsets:
        pose = transforms.product(pose, transforms.offset_transforms(on.offsets[LENS]))
    return with_deflection(pose, on.given[HOLD]) if HOLD in on.given else pose


def needed_pose(
    mounts: tuple[Mount, ...],
    locals_: Mapping[str, Array],
    carried: Mapping[str, Array],
    at: int,
    world: Array,
    behind: int,
) -> Array:
    """Return the local pose of mount number `at` for a bare world pose after number `behind`.

    `behind` is the same one or a later one.

    Parameters
    ----------
    locals_: (F, 4, 4) by mount id.
    carried: (F, 3, 7) by mount id.
    world: (F, 4, 4), wanted.

    Returns
    -------
    (F, 4, 4) float64, poses in the parent, meters.
    """
    pose = world
    for mount in mounts[behind:at:-1]:
        pose = _put_down(pose, carried.get(mount.id)) @ np.linalg.inv(locals_[mount.id])
    pose = _put_down(pose, carried.get(mounts[at].id))
    if at == 0:
        return pose
    *_, base = poses_along(mounts[:at], locals_, RigOffsets(carried))
    return np.asarray(np.linalg.inv(base) @ pose, dtype=np.float64)


def numbers_of(mount: Mount, scope: Scope, local: Array, near_deg: Array | None = None) -> Array:
    """Return position (m) and angles (degrees) of a mount for a local pose, with unchanged pivot and length.

    Parameters
    ----------
    local : (F, 4, 4) float64, poses in the parent, meters.
    near_deg: (F, 3) to stay next to, the keyed ones when left out.

    Returns
    -------
    (F, 6) in the order of MOVE_FIELDS.
    """
    turn, pivot = local[:, :3, :3], np.array(mount.pivot_m)
    place = local[:, :3, 3] + turn[:, :, 2] * mount.length_m.sample(scope)[:, None] - pivot + turn @ pivot
    angles = rotations.nearest_angles(turn, mount.angles_deg(scope) if near_deg is None else near_deg)
    return np.concatenate([place, angles], axis=1)


def with_deflection(pose: Array, given: Array) -> Array:
    """Return a world pose that strays.

    Parameters
    ----------
    pose : (F, 4, 4) float64, poses in the world, meters.
    given: (F, 6) deflection, as in `RigOffsets.given`.

    Returns
    -------
    (F, 4, 4) float64, poses in the world, meters.
    """
    out = pose.copy("K")
    out[:, :3, 3] += given[:, :3]
    if np.any(given[:, 3:]):
        out[:, :3, :3] = transforms.rotation_product(pose[:, :3, :3], turns.from_vectors(given[:, 3:]))
    return out


def _put_down(pose: Array, carried: Array | None) -> Array:
    """Return the pose that a ride has made this one of."""
    if carried is None:
        return pose
    out = pose.copy()
    out[:, :3, 3] = np.linalg.solve(carried[:, :, :3], (pose[:, :3, 3] - carried[:, :, 3])[:, :, None])[:, :, 0]
    out[:, :3, :3] = np.swapaxes(carried[:, :, 4:], 1, 2) @ pose[:, :3, :3]
    return out


def carried_on(pose: Array, carried: Array) -> Array:
    """Return a world pose with the effect of a ride.

    Parameters
    ----------
    pose : (F, 4, 4) float64, poses in the world, meters.
    carried: (F, 3, 7), as `RigOffsets.carried`.

    Returns
    -------
    (F, 4, 4) float64, poses in the world, meters.
    """
    out = pose.copy("K")
    out[:, :3, 3] = np.einsum("fij,fj->fi", carried[:, :, :3], pose[:, :3, 3]) + carried[:, :, 3]
    out[:, :3, :3] = transforms.rotation_product(carried[:, :, 4:], pose[:, :3, :3])
    return out
