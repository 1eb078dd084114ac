"""Commands on the rig itself: add, remove and reorder mounts, move pivots.

The picture is unchanged.

The result of a command is compared with the previous picture, at every frame and between them. Where the numbers of the
mounts
cannot give the same picture, the command reports the reason, and with `bake` keys the mount on every frame instead,
which holds at whole
frames.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any, ClassVar

import numpy as np
from pydantic import Field

from zittern.core.documents.doc import Label
from zittern.core.edits.command import CommandDoc
from zittern.core.edits.keeping import COMPARED_BYTES, kept_by, same_if_moved, same_picture
from zittern.core.edits.merging import merged, moves_at_all
from zittern.core.edits.parts import find_mount, index_of, with_mount
from zittern.core.errors import EditError, NeedsKeys
from zittern.core.motion import chain
from zittern.core.motion.cache import Cache
from zittern.core.presets.rigs import Rig
from zittern.core.rig import rotations
from zittern.core.shot.ids import free_name
from zittern.core.shot.mounts import MOVE_FIELDS, Mount, MountKind
from zittern.core.shot.shot import Shot
from zittern.core.shot.through_variant import with_mounts
from zittern.core.shot.variants import StoredVariant, clips_in

__all__ = [
    "AddMount",
    "MoveMount",
    "RemoveMount",
    "SetPivot",
    "TurnMount",
    "UseRig",
    "put_rig",
]

_Metres = float
_TITLES: dict[str, str] = {
    "free": "Mount",
    "ground": "Ground",
    "arm": "Arm",
    "head": "Head",
    "hands": "Hands",
    "lens": "Lens",
}


class AddMount(CommandDoc):
    """Insert a mount into the rig, before another one or at the lens end. The picture is unchanged."""

    kind: MountKind = "free"
    name: Label | None = None
    before: str | None = None

    def apply(self, shot: Shot) -> Shot:
        """Apply the command. Raises EditError when the other one is not there."""
        at = len(shot.mounts) if self.before is None else index_of(shot, self.before)
        mount = Mount(id=_free_id(shot, self.kind), name=self.name or _TITLES[self.kind], kind=self.kind)
        return shot.replace(mounts=(*shot.mounts[:at], mount, *shot.mounts[at:]))

    def label(self, shot: Shot) -> str:
        """Return `Add mount “Arm”`."""
        return f"Add mount “{self.name or _TITLES[self.kind]}”"


class UseRig(CommandDoc):
    """Insert a rig between the move and the lens.

    It replaces mounts there without keys, operator or layers.
    """

    rig: Rig

    def apply(self, shot: Shot) -> Shot:
        """Insert the rig. A static picture is unchanged; motion is softened by its springs."""
        return put_rig(shot, self.rig.mounts)[0]

    def label(self, shot: Shot) -> str:
        """Return `Use rig tripod`."""
        return f"Use rig {self.rig.name}"


class RemoveMount(CommandDoc, label="Remove mount {mount}"):
    """Remove a mount of the rig.

    keep_picture: its motion is merged into its parent or child; otherwise it is lost, and the child follows the rest of
    the rig.
    """

    everywhere: ClassVar[bool] = True

    mount: str
    keep_picture: bool = False
    bake: bool = False

    def apply(self, shot: Shot) -> Shot:
        """Apply the command. Raises EditError for the last one left, and where the picture cannot be kept."""
        at = index_of(shot, self.mount)
        if len(shot.mounts) == 1:
            raise EditError("a shot needs one mount to carry the lens", f"mount:{self.mount}")
        if not self.keep_picture:
            return with_mounts(shot, tuple(mount for mount in shot.mounts if mount.id != self.mount))
        kept = _removed(shot, at)
        if kept is not None:
            return kept
        why = _why_not(shot, at)
        if why is not None:
            raise EditError(
                f"without “{shot.mounts[at].name}” this would change the picture: {why}", f"mount:{self.mount}"
            )
        if not self.bake:
            raise NeedsKeys(
                _offer(f"“{shot.mounts[at].name}” and its neighbor cannot be merged into one mount"),
                f"mount:{self.mount}",
            )
        return _removed_baked(shot, at)


class MoveMount(CommandDoc):
    """Move a mount in the order, nearer to the lens (+) or to the ground (-)."""

    mount: str
    by: int = Field(ge=-50, le=50)
    bake: bool = False

    def apply(self, shot: Shot) -> Shot:
        """Apply the command. Raises EditError where the picture would change."""
        at = index_of(shot, self.mount)
        to = min(max(at + self.by, 0), len(shot.mounts) - 1)
        mounts = list(shot.mounts)
        mounts.insert(to, mounts.pop(at))
        after = shot.replace(mounts=tuple(mounts))
        if same_picture(shot, after):
            return after
        if not self.bake:
            raise NeedsKeys(
                _offer("rotations and shifts of mounts are applied in order, so the order matters here"),
                f"mount:{self.mount}",
            )
        return kept_by(shot, after, [mount.id for mount in mounts[min(at, to) : max(at, to) + 1]][-1])

    def label(self, shot: Shot) -> str:
        """Return `Move mount “Arm” towards the lens`."""
        return f"Move mount “{find_mount(shot, self.mount).name}” towards the {'lens' if self.by > 0 else 'ground'}"


class SetPivot(CommandDoc, label="Move pivot of {mount}"):
    """The pivot of a mount, in its own frame, meters. The picture stays."""

    mount: str
    pivot_m: tuple[_Metres, _Metres, _Metres]
    bake: bool = False

    def apply(self, shot: Shot) -> Shot:
        """Apply the command.

        Raises EditError where it turns on the way: about another point it would lead elsewhere.
        """
        mount = find_mount(shot, self.mount)
        first = shot.scope(shot.first_frame)
        turn, by = rotations.matrices(mount.angles_deg(first))[0], np.array(self.pivot_m) - mount.pivot_m
        shift = turn @ by - by
        places = {
            field: getattr(mount, field).map(lambda value, d=d: value + d)
            for field, d in zip(MOVE_FIELDS[:3], shift, strict=True)
        }
        after = with_mount(shot, mount, mount.replace(pivot_m=self.pivot_m, **places))
        if same_picture(shot, after):
            return after
        if not self.bake:
            raise NeedsKeys(
                _offer(
                    f"“{mount.name}” rotates during the shot, and the same rotations about another "
                    "point give another path"
                ),
                f"mount:{self.mount}",
            )
        return kept_by(shot, with_mount(shot, mount, mount.replace(pivot_m=self.pivot_m)), mount.id)


class TurnMount(CommandDoc, label="Re-orient axes of {mount}"):
    """Re-orient a mount by the same rotation at all frames.

    Its child is rotated back, so that the picture stays and only its axes change.
    """

    mount: str
    pan_deg: float = Field(default=0.0, ge=-360.0, le=360.0)
    tilt_deg: float = Field(default=0.0, ge=-360.0, le=360.0)
    roll_deg: float = Field(default=0.0, ge=-360.0, le=360.0)
    bake: bool = False

    def apply(self, shot: Shot) -> Shot:
        """Re-orient the mount; the next mount, or a new one at the lens end, compensates.

        Raises EditError where the numbers cannot say it.
        """
        mount = find_mount(shot, self.mount)
        scope = shot.scope(shot.first_frame)
        turn = Mount(id="turn", name="turn", pan_deg=self.pan_deg, tilt_deg=self.tilt_deg, roll_deg=self.roll_deg)  # type: ignore[arg-type]
        angles = rotations.angles_of(np.swapaxes(chain.local_pose(turn, scope)[:, :3, :3], 1, 2))[0]
        back = Mount(
            id=_free_id(shot, "aim"),
            name="Aim",
            kind="free",
            **dict(zip(MOVE_FIELDS[3:], angles.tolist(), strict=True)),
        )
        at = index_of(shot, self.mount)
        cache = Cache(COMPARED_BYTES)
        for fields in merged(mount, turn, scope):
            turned = mount.replace(**fields)
            for rest in (*_with_child(shot, at, back), (back, *shot.mounts[at + 1 :])):
                after = shot.replace(mounts=(*shot.mounts[:at], turned, *rest))
                if same_picture(shot, after, cache=cache):
                    return after
        if not self.bake:
            raise NeedsKeys(
                _offer(
                    f"“{mount.name}” rotates during the shot, and a further rotation cannot be "
                    "expressed by its pan, tilt and roll"
                ),
                f"mount:{mount.id}",
            )
        kept = shot.replace(mounts=(*shot.mounts[: at + 1], back, *shot.mounts[at + 1 :]))
        return kept_by(shot, kept, mount.id)


def put_rig(shot: Shot, rig: Sequence[Mount]) -> tuple[Shot, dict[str, str]]:
    """Return the shot with mounts inserted behind the existing ones, and their ids.

    They replace mounts there without keys, operator or layers.
    """
    shot = _without_idle(shot)
    names: dict[str, str] = {}
    for mount in rig:
        names[mount.id] = _free_id(shot, mount.id)
        shot = shot.replace(
            mounts=(*shot.mounts, mount.replace(id=names[mount.id], solo=any(each.solo for each in shot.mounts)))
        )
    return shot, names


def _without_idle(shot: Shot) -> Shot:
    """Return the shot without unused mounts behind the first, with the same rigid picture.

    Those that cannot be merged stay unchanged.
    """
    idle = [mount for mount in shot.mounts[1:] if not _worked_on(shot, mount)]
    cache = Cache(COMPARED_BYTES)
    # All of them, and the pictures compared once. One by one where that is not the same.
    stiff = shot
    for mount in idle:
        stiff = with_mount(stiff, mount, mount.replace(springs=None))
    left = stiff
    for mount in idle:
        ways = _ways_without(left, index_of(left, mount.id))
        left = next((each for each in ways if same_if_moved(stiff, each)), left)
    if len(left.mounts) + len(idle) == len(stiff.mounts) and same_picture(stiff, left, cache=cache):
        return left
    for mount in idle:
        stiff = with_mount(shot, mount, mount.replace(springs=None))
        shot = _removed(stiff, index_of(stiff, mount.id), cache) or shot
    return shot


def _removed(shot: Shot, at: int, cache: Cache | None = None) -> Shot | None:
    """Return the shot without a mount, with the same picture; None if there is no such rig."""
    cache = cache or Cache(COMPARED_BYTES)
    return next((each for each in _ways_without(shot, at) if same_picture(shot, each, cache=cache)), None)


def _ways_without(shot: Shot, at: int) -> list[Shot]:
    """Yield shots in which the adjacent mount has taken the motion of the removed one, where its numbers allow."""
    if _why_not(shot, at) is not None:
        return []
    mount, scope = shot.mounts[at], shot.scope(shot.first_frame)
    has_layers = any(layer.target == mount.id for _, layer in shot.layers())
    found: list[Shot] = []
    if at > 0:
        carrier = shot.mounts[at - 1]
        rest = (shot.mounts[: at - 1], shot.mounts[at + 1 :])
        found += [
            with_mounts(shot, (*rest[0], carrier.replace(**fields), *rest[1]), carrier.id)
            for fields in merged(carrier, mount, scope)
        ]
    if at + 1 < len(shot.mounts) and not has_layers:
        child = shot.mounts[at + 1]
        rest = (shot.mounts[:at], shot.mounts[at + 2 :])
        found += [
            with_mounts(shot, (*rest[0], child.replace(**fields), *rest[1])) for fields in merged(mount, child, scope)
        ]
    return found


def _removed_baked(shot: Shot, at: int) -> Shot:
    neighbour = shot.mounts[at - 1] if at > 0 else shot.mounts[1]
    after = with_mounts(shot, tuple(mount for mount in shot.mounts if mount is not shot.mounts[at]), neighbour.id)
    return kept_by(shot, after, neighbour.id)


def _with_child(shot: Shot, at: int, back: Mount) -> list[tuple[Mount, ...]]:
    """Return the mounts behind one, with a turn taken into the next of them."""
    if at + 1 >= len(shot.mounts):
        return []
    child = shot.mounts[at + 1]
    return [
        (child.replace(**fields), *shot.mounts[at + 2 :])
        for fields in merged(back, child, shot.scope(shot.first_frame))
    ]


def _why_not(shot: Shot, at: int) -> str | None:
    """Return the reason why a mount cannot be merged."""
    mount = shot.mounts[at]
    for field, title in (("operator", "Operator"), ("springs", "it gives"), ("ride", "it rides on something")):
        if getattr(mount, field) is not None:
            return f"{title}; take that off first, or remove it without keeping the picture"
    return None


def _worked_on(shot: Shot, mount: Mount) -> bool:
    """Return whether a mount differs from a ready-made one."""
    busy: tuple[Any, ...] = (mount.operator, mount.ride)
    return (
        moves_at_all(mount)
        or any(busy)
        or any(layer.target == mount.id for _, layer in shot.layers())
        or any(_has(each.aside, mount) for each in shot.variants if each.aside is not None)
    )


def _has(aside: StoredVariant, mount: Mount) -> bool:
    """Return whether a stored variant has an operator or layers on a mount."""
    aims = any(each.mount == mount.id and each.operator is not None for each in aside.mounts)
    return aims or any(layer.target == mount.id for clip in clips_in(aside.lanes) for layer in clip.layers)


def _offer(why: str) -> str:
    return f"this would change the picture: {why}. Keys on every frame keep it"


def _free_id(shot: Shot, wanted: str) -> str:
    return free_name(wanted, {mount.id for mount in shot.mounts})
