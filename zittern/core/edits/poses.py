"""Commands that set world poses of mounts: pasted, from another mount, or from the operator."""

from __future__ import annotations

from typing import Annotated

import numpy as np
from pydantic import Field

from zittern.core.documents.doc import Doc
from zittern.core.edits.command import CommandDoc
from zittern.core.edits.numbers import NumberValue, SetNumbers
from zittern.core.edits.parts import find_mount, index_of, with_mount
from zittern.core.edits.recording import keys_outside, thin_keys
from zittern.core.errors import EditError
from zittern.core.motion import chain
from zittern.core.motion.evaluate import Motion, evaluate
from zittern.core.motion.memory import NEAR_LEAD_S
from zittern.core.motion.rides import rides
from zittern.core.motion.springs import sprung
from zittern.core.motion.targets import followable
from zittern.core.numbers.curves import MOST_KEYS, Curve, Frame
from zittern.core.numbers.param import Number, fixed, on_curve
from zittern.core.numbers.reduction import fitted_keys
from zittern.core.optics.lens import focal_px
from zittern.core.rig import rotations, transforms
from zittern.core.shot.mounts import MOVE_FIELDS, Mount
from zittern.core.shot.shot import Shot
from zittern.core.timebase import frame_grid
from zittern.core.units import Array

__all__ = ["KeysFromOperator", "MatchPose", "PastePose", "WorldPose"]

_Metre = Annotated[float, Field(ge=-1e6, le=1e6)]
_Degree = Annotated[float, Field(ge=-1e6, le=1e6)]
_MOST_POSES = 20_000
MOST_OPERATED = 100_000
_MOST_TRIES = 8


class WorldPose(Doc):
    """A pose in the world at a frame: x, y, z in metres; pan, tilt, roll in degrees."""

    frame: Frame
    position_m: tuple[_Metre, _Metre, _Metre]
    angles_deg: tuple[_Degree, _Degree, _Degree]


class PastePose(CommandDoc):
    """Set the children of a mount to world poses, at one frame or several.

    At several, or with `key`, numbers get keys.
    """

    mount: str
    poses: Annotated[tuple[WorldPose, ...], Field(min_length=1, max_length=_MOST_POSES)]
    key: bool = False

    def apply(self, shot: Shot) -> Shot:
        """With several poses at a frame, the last is used. Raises EditError for a place out of range."""
        poses = [pose for _, pose in sorted({pose.frame: pose for pose in self.poses}.items())]
        frames = np.array([pose.frame for pose in poses])
        world = transforms.from_parts(
            np.array([pose.position_m for pose in poses]), np.array([pose.angles_deg for pose in poses])
        )
        return _with_mount_at(shot, self.mount, frames, world, self.key)

    def label(self, shot: Shot) -> str:
        """Return `Paste pose on “Head” at frame 24`."""
        frames = sorted({pose.frame for pose in self.poses})
        return f"Paste pose on “{find_mount(shot, self.mount).name}” {_when(frames[0], frames[-1])}"


class MatchPose(CommandDoc):
    """Set the children of a mount to the pose of another mount of the bare move, on every frame of a range.

    The lens when none is named.
    """

    mount: str
    like: str | None = None
    first_frame: int = Field(ge=-1_000_000, le=10_000_000)
    last_frame: int = Field(ge=-1_000_000, le=10_000_000)

    def apply(self, shot: Shot) -> Shot:
        """Key the pose; there is no link afterwards: also possible for an object that the mount carries.

        Raises EditError for a stretch upside down or too long.
        """
        if not self.first_frame <= self.last_frame < self.first_frame + _MOST_POSES:
            raise EditError(
                f"expected a stretch of 1 to {_MOST_POSES} frames, got {self.first_frame} to {self.last_frame}",
                "last_frame",
            )
        at = index_of(shot, self.mount)
        source = len(shot.mounts) - 1 if self.like is None else index_of(shot, self.like)
        frames = np.arange(self.first_frame, self.last_frame + 1, dtype=np.float64)
        scope = shot.scope(frames)
        *_, world = chain.poses_along(
            shot.mounts[: source + 1], chain.local_poses(shot, scope), chain.RigOffsets(rides(shot, scope))
        )
        return _with_mount_at(shot, shot.mounts[at].id, frames, world, key=True)

    def label(self, shot: Shot) -> str:
        """Return `Put “Head” where “Camera” is from frame 1 to 240`."""
        like = "the lens" if self.like is None else f"“{find_mount(shot, self.like).name}”"
        return f"Match “{find_mount(shot, self.mount).name}” to {like} {_when(self.first_frame, self.last_frame)}"


class KeysFromOperator(CommandDoc, label="Bake the operator of {mount} into keys"):
    """Convert the operator to keys of pan and tilt, and remove the operator.

    As few keys as stay within some pixels at every frame; without an action of the operator there are none. An axis
    without operator motion is unchanged.
    """

    mount: str
    tolerance_px: float = Field(default=2.0, ge=0.05, le=500.0)

    def apply(self, shot: Shot) -> Shot:
        """Apply the command. Raises EditError without an operator."""
        mount = find_mount(shot, self.mount)
        if mount.operator is None or not followable(shot, mount.operator):
            raise EditError(
                "no operator aims this mount at anything, so there is nothing to make keys of",
                f"mount:{self.mount}.operator",
            )
        if shot.frame_count > MOST_OPERATED:
            raise EditError(
                f"expected up to {MOST_OPERATED} frames to bake an operator, the shot has {shot.frame_count}",
                f"mount:{self.mount}.operator",
            )
        moved = {"pan_deg": mount.operator.pan, "tilt_deg": mount.operator.tilt}
        if mount.operator.weight.nothing or not any(moved.values()):
            return with_mount(shot, mount, mount.replace(operator=None))
        frames = self._frames(shot, mount)
        seen = evaluate(shot, frame_grid(shot.first_frame, shot.last_frame))
        local = evaluate(shot, frames).locals_[mount.id][:, :3, :3]
        turned = rotations.nearest_angles(local, rotations.continuous(local, mount.angles_deg(shot.scope(frames))[0]))
        scale = focal_px(float(np.max(seen.bare.focal_mm)), shot.sensor_mm, shot.picture.width_px)
        within_px = self.tolerance_px
        for _ in range(_MOST_TRIES):
            tolerance = float(np.degrees(np.arctan(within_px / scale)))
            changes = {
                name: _along(frames, turned[:, n], tolerance) for n, (name, on) in enumerate(moved.items()) if on
            }
            out = with_mount(shot, mount, mount.replace(operator=None, **changes))
            missed = float(np.max(_missed_px(seen, evaluate(out, seen.frames), scale)))
            if missed <= self.tolerance_px:
                return out
            within_px *= min(0.5, self.tolerance_px / missed)
        raise EditError(
            f"keys keep within {missed:.3g} px here, not {self.tolerance_px:g}; choose a larger tolerance",
            "tolerance_px",
        )

    def _frames(self, shot: Shot, mount: Mount) -> Array:
        """Return the frames of the new keys: those of the shot, and enough earlier ones for springs to settle."""
        behind = shot.mounts[shot.mounts.index(mount) :]
        lead = np.ceil(NEAR_LEAD_S * shot.fps.value) if any(each in behind for each in sprung(shot)) else 0.0
        return np.arange(shot.first_frame - lead, shot.last_frame + 1.0)


def _missed_px(wanted: Motion, got: Motion, scale_px: float) -> Array:
    """Return the distance of the center of one motion's picture from that of another. (F,) pixels."""
    turn = rotations.matrices(got.pose.angles_deg)
    ahead = -rotations.matrices(wanted.pose.angles_deg)[:, :, 2]
    seen = np.einsum("fji,fj->fi", turn, ahead)
    return np.asarray(np.hypot(seen[:, 0], seen[:, 1]) / np.maximum(-seen[:, 2], 1e-6) * scale_px, dtype=np.float64)


def _with_mount_at(shot: Shot, mount_id: str, frames: Array, world: Array, key: bool) -> Shot:
    """Return the shot with a mount set so that what hangs behind it is at world poses, (F, 4, 4)."""
    at = index_of(shot, mount_id)
    mount, scope = shot.mounts[at], shot.scope(frames)
    local = chain.needed_pose(shot.mounts, chain.local_poses(shot, scope), rides(shot, scope), at, world, at)
    near = rotations.continuous(local[:, :3, :3], mount.angles_deg(scope.over(frames[:1]))[0])
    numbers = chain.numbers_of(mount, scope, local, near)
    if len(frames) == 1:
        values = tuple(
            NumberValue(at=f"mount:{mount.id}.{field}", value=float(numbers[0, i]))
            for i, field in enumerate(MOVE_FIELDS)
        )
        return SetNumbers(frame=float(frames[0]), values=values, key=key).apply(shot)
    changed = mount.replace(
        **{field: _keyed_through(getattr(mount, field), frames, numbers[:, i]) for i, field in enumerate(MOVE_FIELDS)}
    )
    return with_mount(shot, mount, changed)


def _keyed_through(number: Number, frames: Array, values: Array) -> Number:
    """With keys on straight lines through some values, in place of those within their stretch."""
    keys = keys_outside(number, frames) | thin_keys(frames, values, 1e-9 * max(1.0, float(np.max(np.abs(values)))))
    if len(keys) > MOST_KEYS:
        raise EditError(f"that makes {len(keys)} keys on one number; up to {MOST_KEYS} are possible")
    ordered = tuple(key for _, key in sorted(keys.items()))
    return on_curve(Curve(keys=ordered) if number.curve is None else number.curve.replace(keys=ordered))


def _along(frames: Array, values: Array, tolerance: float) -> Number:
    """Return a number on curves with handles along values, within a tolerance."""
    if float(np.ptp(values)) <= 2.0 * tolerance:
        return fixed(0.5 * float(np.min(values) + np.max(values)))
    return on_curve(Curve(keys=fitted_keys(frames, values, tolerance)))


def _when(first: float, last: float) -> str:
    return f"at frame {first:g}" if first == last else f"from frame {first:g} to {last:g}"
