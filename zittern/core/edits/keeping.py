"""Keep the picture while the rig changes.

Compare before with after, and key every frame where no exact numbers exist.
"""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from zittern.core.axes import Axis, axis_index, no_offsets
from zittern.core.edits.parts import index_of, with_mount
from zittern.core.errors import EditError
from zittern.core.motion import chain
from zittern.core.motion.cache import Cache
from zittern.core.motion.evaluate import evaluate
from zittern.core.motion.rides import rides
from zittern.core.numbers.param import linear_keys
from zittern.core.rig import rotations
from zittern.core.shot.mounts import MOVE_FIELDS, Mount
from zittern.core.shot.shot import Shot
from zittern.core.timebase import frame_grid
from zittern.core.units import Array

__all__ = ["COMPARED_BYTES", "baked", "kept_by", "same_if_moved", "same_picture"]

# Tolerance for equal pictures: meters, and entries of the rotation.
_SAME = 1e-6
# Cache for one command: both sides share most of it.
COMPARED_BYTES = 64 * 2**20
# Frames at which they are compared: all whole ones of a usual shot, and three between each two.
_MOST_COMPARED = 8_000
_BETWEEN = 4
_FEW_COMPARED = 8
# Some rotations and translations of a mount, none of them like another.
_MOVED: dict[Axis, float] = {"pan": 7.0, "tilt": -11.0, "roll": 5.0, "truck": 13.0, "pedestal": -17.0, "dolly": 23.0}
# A mount that is keyed on every frame has no more keys than this on an axis.
_MOST_BAKED = 20_000


def same_picture(before: Shot, after: Shot, between: int = _BETWEEN, cache: Cache | None = None) -> bool:
    """Return whether the lens has the same pose and focal length at every frame, and at points between them.

    cache: of earlier comparisons.
    """
    if before.frame_count * between <= _MOST_COMPARED:
        frames = frame_grid(before.first_frame, before.last_frame, 1.0 / between)
    else:
        frames = np.linspace(before.first_frame, before.last_frame, _MOST_COMPARED)
    cache = Cache(COMPARED_BYTES) if cache is None else cache
    one, other = (evaluate(_without_lens_end(each), frames, cache).pose for each in (before, after))
    turned = rotations.matrices(one.angles_deg) - rotations.matrices(other.angles_deg)
    parts: tuple[Array, ...] = (one.position_m - other.position_m, turned, one.focal_mm - other.focal_mm)
    return all(float(np.max(np.abs(each), initial=0.0)) <= _SAME for each in parts)


def same_if_moved(before: Shot, after: Shot) -> bool:
    """Return whether the keyed lens has the same pose at a few frames after small offsets.

    Every mount that an operator, springs or layers move is offset by a fixed amount: a fast test that selects
    candidates for the full comparison.
    """
    frames = np.linspace(before.first_frame, before.last_frame, _FEW_COMPARED)
    one, other = (_moved_lens(each, frames) for each in (before, after))
    return float(np.max(np.abs(one - other), initial=0.0)) <= _SAME


def _moved_lens(shot: Shot, frames: Array) -> Array:
    """Return tf_world_lens of the keyed rig with each moving mount offset by _MOVED. (F, 4, 4)."""
    scope = shot.scope(frames)
    targets = {layer.target for _, layer in shot.layers()}
    moved = {each.id for each in shot.mounts if each.id in targets or each.operator is not None or each.springs}
    offsets = no_offsets(frames)
    for axis, value in _MOVED.items():
        offsets[:, axis_index(axis)] = value
    on = chain.RigOffsets(rides(shot, scope), {}, dict.fromkeys(moved, offsets))
    return chain.lens_pose(shot.mounts, chain.local_poses(shot, scope), on)


def _without_lens_end(shot: Shot) -> Shot:
    """Return the shot without layers behind its last mount: no edit of the rig changes what they do.

    A hold on the framing answers to them, so there they stay.
    """
    if shot.hold is not None:
        return shot
    layers = [layer for _, layer in shot.layers()]
    soloed = any(layer.solo for layer in layers)
    kept = {layer.id for layer in layers if layer.target is not None or (soloed and layer.solo)}
    lanes = tuple(
        lane.replace(
            clips=tuple(
                clip.replace(layers=tuple(layer for layer in clip.layers if layer.id in kept)) for clip in lane.clips
            )
        )
        for lane in shot.lanes
    )
    return shot.replace(lanes=lanes)


def baked(shot: Shot, mount: Mount, wanted: Callable[[Array], Array], frames: Array) -> Mount:
    """Return a mount keyed on all of some frames, so that its local poses are the ones wanted.

    Raises EditError for too many. wanted: (F,) -> (F, 4, 4).

    Parameters
    ----------
    frames: (F,) rising.

    Returns
    -------
    The mount.
    """
    if len(frames) > _MOST_BAKED:
        raise EditError(
            f"that takes a key on each of {len(frames)} frames; up to {_MOST_BAKED} are possible", f"mount:{mount.id}"
        )
    scope, local = shot.scope(frames), wanted(frames)
    near = rotations.continuous(local[:, :3, :3], mount.angles_deg(shot.scope(float(frames[0])))[0])
    numbers = chain.numbers_of(mount, scope, local, near)
    return mount.replace(**{field: linear_keys(frames, numbers[:, i]) for i, field in enumerate(MOVE_FIELDS)})


def kept_by(before: Shot, after: Shot, mount_id: str) -> Shot:
    """Return the shot after a change of its rig, with an unchanged bare picture.

    One mount is keyed on every frame.
    """
    at = index_of(after, mount_id)

    def wanted(frames: Array) -> Array:
        scope = before.scope(frames)
        lens = chain.lens_pose(before.mounts, chain.local_poses(before, scope), chain.RigOffsets(rides(before, scope)))
        return chain.needed_pose(
            after.mounts, chain.local_poses(after, scope), rides(after, scope), at, lens, len(after.mounts) - 1
        )

    mount = after.mounts[at]
    out = with_mount(after, mount, baked(after, mount, wanted, frame_grid(after.first_frame, after.last_frame)))
    if not same_picture(before, out, between=1):
        raise EditError(
            f"keys on every frame do not keep the picture either: "
            f"{_disturbs(before) or 'springs or layers hang on that mount'}",
            f"mount:{mount_id}",
        )
    return out


def _disturbs(shot: Shot) -> str:
    """Return the parts of a rig that respond to more than the keyed poses."""
    return "; ".join(f"“{mount.name}” gives" for mount in shot.mounts if mount.springs is not None)
