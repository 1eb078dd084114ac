"""World pose of the lens: the product over the mounts of keyed local pose and offsets of the layers on that mount."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np

from zittern.core.numbers.scope import Scope
from zittern.core.rig import transforms
from zittern.core.shot.mounts import Mount
from zittern.core.units import Array

__all__ = ["LENS", "lens_pose", "local_pose"]

# Where layers act that name no mount: at the lens end, below the last mount.
LENS = ""


def local_pose(mount: Mount, scope: Scope) -> Array:
    """Keyed pose of a mount in its parent. (F, 4, 4) metres."""
    return transforms.from_parts(mount.position_m(scope), mount.angles_deg(scope), np.array(mount.pivot_m))


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
