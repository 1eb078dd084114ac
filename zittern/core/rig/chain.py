"""World pose of the lens: the product over the mounts of keyed local pose and offsets of the layers on that mount."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np

from zittern.core.rig import rotations, transforms
from zittern.core.shot.mounts import Mount
from zittern.core.units import Array

__all__ = ["LENS", "lens_pose", "local_pose", "world_angles"]

# Where layers act that name no mount: at the lens end, below the last mount.
LENS = ""


def local_pose(mount: Mount, frames: Array) -> Array:
    """Keyed pose of a mount in its parent. (F,) -> (F, 4, 4) metres."""
    return transforms.from_parts(mount.position_m(frames), mount.angles_deg(frames), np.array(mount.pivot_m))


def lens_pose(mounts: tuple[Mount, ...], locals_: Mapping[str, Array], offsets: Mapping[str, Array]) -> Array:
    """tf_world_lens. locals_: (F, 4, 4) by mount id; offsets: (F, 7) by mount id or LENS. -> (F, 4, 4)."""
    pose: Array | None = None
    for mount in mounts:
        local = locals_[mount.id]
        pose = local if pose is None else pose @ local
        if mount.id in offsets:
            pose = pose @ transforms.offset_transforms(offsets[mount.id])
    assert pose is not None, "a shot has at least one mount"
    if LENS in offsets:
        pose = pose @ transforms.offset_transforms(offsets[LENS])
    return pose


def world_angles(mounts: tuple[Mount, ...], pose: Array, offsets: Mapping[str, Array], frames: Array) -> Array:
    """Pan, tilt, roll of poses, on the turn nearest to the sum of all keyed and layered angles. (F, 4, 4) -> (F, 3) degrees."""
    reference = np.zeros((len(frames), 3))
    for mount in mounts:
        reference += mount.angles_deg(frames)
    for offset in offsets.values():
        reference += offset[:, :3]
    return rotations.nearest_angles(pose[:, :3, :3], reference)
