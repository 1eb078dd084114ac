"""Commands that place the camera: its position and direction in the bare move, for any rig.

Each edits one mount of the rig, by default the last, so that the lens reaches the requested world pose. A
number that is keyed gets a key at the frame; one that is fixed stays fixed unless `key` is set; `locked` ones are not
touched.
"""

from __future__ import annotations

from collections.abc import Mapping
from operator import attrgetter
from typing import Annotated, Literal

import numpy as np
from pydantic import Field

from zittern.core.documents.doc import Doc
from zittern.core.edits.command import CommandDoc
from zittern.core.edits.numbers import NumberValue, SetNumbers
from zittern.core.edits.parts import find_mount
from zittern.core.edits.recording import with_recorded
from zittern.core.edits.titles import field_title, of_mount
from zittern.core.errors import EditError
from zittern.core.motion import chain
from zittern.core.motion.facts import scope_at
from zittern.core.motion.move import bare_poses
from zittern.core.motion.rides import rides
from zittern.core.numbers.curves import Frame
from zittern.core.numbers.scope import Scope
from zittern.core.optics.lens import height_mm
from zittern.core.rig import rotations, transforms
from zittern.core.shot.mounts import MOVE_FIELDS, Mount, MoveField
from zittern.core.shot.shot import Shot
from zittern.core.units import Array

__all__ = ["AimCamera", "FlightSample", "Fly", "PlaceLens", "RecordFlight", "SetMove", "SnapAngles"]

MoveOrLens = Literal["x_m", "y_m", "z_m", "pan_deg", "tilt_deg", "roll_deg", "focal_mm"]
_ANGLES: tuple[MoveField, ...] = ("pan_deg", "tilt_deg", "roll_deg")
# Closer than this to the subject there is no direction to it.
_AT_SUBJECT_M = 1e-6
_HALVINGS = 80
# Room above the head in a picture that is filled with less than all of the subject, as a share of its height.
_HEADROOM = 0.1
# Numbers that a flight changes by no more than this keep their keys.
_SAME = 1e-9
_STEPS = attrgetter("pan_deg", "tilt_deg", "truck_m", "pedestal_m", "dolly_m")


class _OnMount(CommandDoc):
    """frame: frame of the edit. key: numbers without keys get one too. mount: the part of the rig that moves."""

    frame: Frame
    key: bool = False
    mount: str | None = None


class SetMove(_OnMount):
    """Set numbers of the move at a frame: position, angles, focal length."""

    values: dict[MoveOrLens, float] = Field(min_length=1)

    def apply(self, shot: Shot) -> Shot:
        """Apply the command. Raises EditError for a value out of range."""
        return _stored(shot, self, self.values)

    def label(self, shot: Shot) -> str:
        """Return `Set pan at frame 24`."""
        names = ", ".join(field_title(field) for field in self.values)
        of = of_mount(shot, self.mount) if set(self.values) != {"focal_mm"} else ""
        return f"Set {names}{of} at frame {self.frame:g}"


class PlaceLens(_OnMount):
    """Set the lens to a world pose, for example that of the Set view."""

    position_m: tuple[float, float, float]
    angles_deg: tuple[float, float, float]
    locked: tuple[MoveField, ...] = ()

    def apply(self, shot: Shot) -> Shot:
        """Set the pose of the bare move."""
        world = transforms.from_parts(np.array([self.position_m]), np.array([self.angles_deg]))
        return _with_lens_at(shot, self, world, self.locked)

    def label(self, shot: Shot) -> str:
        """Return `Place camera at frame 24`, or `Set pan at frame 24` when all else is locked."""
        free = [field_title(field) for field in MOVE_FIELDS if field not in self.locked]
        return (
            f"Set {', '.join(free)}{of_mount(shot, self.mount)} at frame {self.frame:g}"
            if 0 < len(free) <= 2
            else f"Place camera at frame {self.frame:g}"
        )


class Fly(_OnMount, label="Fly camera at frame {frame:g}"):
    """Move the camera in its own frame: rotation in degrees, distance in meters."""

    pan_deg: float = Field(default=0.0, ge=-1e5, le=1e5)
    tilt_deg: float = Field(default=0.0, ge=-1e5, le=1e5)
    roll_deg: float = Field(default=0.0, ge=-1e5, le=1e5)
    truck_m: float = Field(default=0.0, ge=-1e5, le=1e5)
    pedestal_m: float = Field(default=0.0, ge=-1e5, le=1e5)
    dolly_m: float = Field(default=0.0, ge=-1e5, le=1e5)
    locked: tuple[MoveField, ...] = ()

    def apply(self, shot: Shot) -> Shot:
        """Pan turns about the world's vertical, so that the horizon stays level; steps follow the picture."""
        pose = _lens(shot, self.frame)
        angles = _lens_angles(shot, self.frame) + np.array([[self.pan_deg, self.tilt_deg, self.roll_deg]])
        step = pose[0, :3, :3] @ np.array([self.truck_m, self.pedestal_m, -self.dolly_m])
        return _with_lens_at(shot, self, transforms.from_parts(pose[:, :3, 3] + step, angles), self.locked)


class FlightSample(Doc):
    """The way flown up to a frame, in the frame of the camera: turns in degrees, steps in meters."""

    frame: Frame
    pan_deg: float = Field(default=0.0, ge=-1e5, le=1e5)
    tilt_deg: float = Field(default=0.0, ge=-1e5, le=1e5)
    truck_m: float = Field(default=0.0, ge=-1e5, le=1e5)
    pedestal_m: float = Field(default=0.0, ge=-1e5, le=1e5)
    dolly_m: float = Field(default=0.0, ge=-1e5, le=1e5)


class RecordFlight(CommandDoc):
    """Key a flight recorded during playback, added to the old move, in place of its keys within the range.

    Numbers that the flight leaves alone keep their keys.
    """

    mount: str | None = None
    samples: Annotated[tuple[FlightSample, ...], Field(min_length=1, max_length=100_000)]
    locked: tuple[MoveField, ...] = ()

    def apply(self, shot: Shot) -> Shot:
        """Take the last of several samples at a frame. Raises EditError for numbers that follow a formula."""
        last = dict(sorted((each.frame, each) for each in self.samples))
        frames, flown = np.array(list(last)), np.array([_STEPS(each) for each in last.values()])
        mount = shot.mounts[-1] if self.mount is None else find_mount(shot, self.mount)
        scope = shot.scope(frames)
        turned = np.concatenate([flown[:, :2], np.zeros((len(frames), 1))], axis=1)
        angles = _lens_angles(shot, frames) + turned
        # Each step goes where the camera looks by then.
        steps = np.diff(flown[:, 2:], axis=0, prepend=0.0) * (1.0, 1.0, -1.0)
        gone_m = np.cumsum(np.einsum("fij,fj->fi", rotations.matrices(angles), steps), axis=0)
        world = transforms.from_parts(_lens(shot, frames)[:, :3, 3] + gone_m, angles)
        local = _needed(shot, mount, scope, world)
        before = np.concatenate([mount.position_m(scope), mount.angles_deg(scope)], axis=1)
        after = chain.numbers_of(mount, scope, local, before[:, 3:] + turned)
        for field, was, now in zip(MOVE_FIELDS, before.T, after.T, strict=True):
            if field in self.locked or np.allclose(was, now, rtol=0.0, atol=_SAME):
                continue
            shot = with_recorded(shot, f"mount:{mount.id}.{field}", frames, now)
        return shot

    def label(self, shot: Shot) -> str:
        """Return `Record flight from frame 24 to 96`."""
        frames = [each.frame for each in self.samples]
        return f"Record flight from frame {min(frames):g} to {max(frames):g}"


class AimCamera(_OnMount):
    """Aim at the subject.

    With `fill` the camera moves closer until the subject's box fills that share of the picture's height, and up to 1 of
    its width, so that nothing is cut off. Above 1 the head stays in the picture.
    """

    fill: float | None = Field(default=None, ge=0.02, le=4.0)
    locked: tuple[MoveField, ...] = ()

    def apply(self, shot: Shot) -> Shot:
        """Roll stays. Raises EditError without a subject."""
        if shot.subject is None:
            raise EditError("no subject is marked; mark one first", "shot.subject")
        at, fill = scope_at(shot, self.frame), self.fill
        point, corners = shot.subject.position_m(at)[0], shot.subject.corners_m
        position = _lens(shot, self.frame)[0, :3, 3]
        if float(np.linalg.norm(point - position)) < _AT_SUBJECT_M:
            raise EditError("the camera is inside the subject; move it away first", "shot.subject")
        if fill is not None and fill > 1.0:
            head_m = np.array([0.0, shot.subject.height_m * (0.5 - (0.5 - _HEADROOM) / fill), 0.0])
            point, corners = point + head_m, corners - head_m
        away = point - position
        pan, tilt = _angles_to(away)
        if fill is not None:
            size_mm = (shot.sensor_mm, height_mm(shot.sensor_mm, shot.picture.width_px, shot.picture.height_px))
            halves = np.array(size_mm) / (2.0 * shot.lens_at(at))
            seen = corners @ rotations.matrices(np.array([[pan, tilt, 0.0]]))[0]
            wanted = _distance_m(seen, halves, fill)
            position = point - away / float(np.linalg.norm(away)) * wanted
            if fill > 1.0:
                top = float(np.max(seen[:, 1] / (wanted - seen[:, 2])))
                tilt += float(np.degrees(np.arctan(top) - np.arctan((1.0 - 2.0 * _HEADROOM) * halves[1])))
        roll = float(_lens_angles(shot, self.frame)[0, 2])
        return _with_lens_at(
            shot, self, transforms.from_parts(position[None], np.array([[pan, tilt, roll]])), self.locked
        )

    def label(self, shot: Shot) -> str:
        """Return `Aim at “Courier” at frame 24`."""
        return f"Aim at “{shot.subject.name if shot.subject else 'subject'}” at frame {self.frame:g}"


def _angles_to(away: Array) -> tuple[float, float]:
    """Pan and tilt, degrees, that look along a direction (3,)."""
    pan = np.degrees(np.arctan2(-away[0], -away[2]))
    return float(pan), float(np.degrees(np.arctan2(away[1], np.hypot(away[0], away[2]))))


def _distance_m(corners: Array, halves: Array, fill: float) -> float:
    """Return the distance at which a box fills a share of the picture.

    corners: (8, 3) meters in the camera's frame, about the center of the box. halves: (2,) half of the picture's width
    and height at a distance of 1. The share falls with the distance, so bisection finds it.
    """

    def share(away: float) -> float:
        seen = corners[:, :2] / (away - corners[:, 2:]) / halves
        # For a subject that does not fit into the picture only its height is used.
        return float(np.max(np.abs(seen)) if fill <= 1.0 else np.ptp(seen[:, 1]) / 2.0)

    low = float(corners[:, 2].max()) + _AT_SUBJECT_M
    high = low + 1.0
    while share(high) > fill:
        high = low + 2.0 * (high - low)
    for _ in range(_HALVINGS):
        middle = 0.5 * (low + high)
        low, high = (middle, high) if share(middle) > fill else (low, middle)
    return high


class SnapAngles(_OnMount):
    """Snap angles to the nearest multiple of 90 degrees, or numbers of the move to zero."""

    fields: tuple[MoveField, ...] = _ANGLES
    zero: bool = False

    def apply(self, shot: Shot) -> Shot:
        """Positions can only be set to zero: they have no right angle."""
        mount = _mount(shot, self)
        at = shot.scope(self.frame)
        values: dict[MoveOrLens, float] = {}
        for field in self.fields:
            if not self.zero and field not in _ANGLES:
                raise EditError("only angles snap to 90 degrees; positions can be set to zero", field)
            now = float(mount.along(field, at)[0])
            values[field] = 0.0 if self.zero else 90.0 * round(now / 90.0)
        return _stored(shot, self, values)

    def label(self, shot: Shot) -> str:
        """Return `Zero roll at frame 24`."""
        names = ", ".join(field_title(field) for field in self.fields)
        return f"{'Zero' if self.zero else 'Snap'} {names}{of_mount(shot, self.mount)} at frame {self.frame:g}"


def _lens(shot: Shot, frames: Array | float) -> Array:
    """Return tf_world_lens of the bare move at frames, (F,) or one. (F, 4, 4)."""
    return bare_poses(shot, shot.scope(frames))


def _lens_angles(shot: Shot, frames: Array | float) -> Array:
    """Return (F, 3) degrees, continuous with the keyed angles."""
    keyed = np.sum([mount.angles_deg(shot.scope(frames)) for mount in shot.mounts], axis=0)
    return rotations.nearest_angles(_lens(shot, frames)[:, :3, :3], keyed)


def _mount(shot: Shot, how: _OnMount) -> Mount:
    """Return the mount meant, the last when none is named. Raises EditError."""
    return shot.mounts[-1] if how.mount is None else find_mount(shot, how.mount)


def _with_lens_at(shot: Shot, how: _OnMount, tf_world_lens: Array, locked: tuple[MoveField, ...]) -> Shot:
    """Return the shot with a mount posed so that the lens has a world pose; locked numbers are unchanged."""
    mount, scope = _mount(shot, how), shot.scope(how.frame)
    local = _needed(shot, mount, scope, tf_world_lens)
    values: dict[MoveOrLens, float] = dict(
        zip(MOVE_FIELDS, chain.numbers_of(mount, scope, local)[0].tolist(), strict=True)
    )
    return _stored(shot, how, {field: value for field, value in values.items() if field not in locked})


def _needed(shot: Shot, mount: Mount, scope: Scope, tf_world_lens: Array) -> Array:
    """Return the local pose of a mount for a world pose of the lens. (F, 4, 4)."""
    i, last = shot.mounts.index(mount), len(shot.mounts) - 1
    return chain.needed_pose(shot.mounts, chain.local_poses(shot, scope), rides(shot, scope), i, tf_world_lens, last)


def _stored(shot: Shot, how: _OnMount, values: Mapping[MoveOrLens, float]) -> Shot:
    """Return each value as a key where the number is keyed or must be, else as its fixed value."""
    mount = _mount(shot, how).id
    numbers = tuple(
        NumberValue(at="shot.focal_mm" if field == "focal_mm" else f"mount:{mount}.{field}", value=value)
        for field, value in values.items()
    )
    return SetNumbers(frame=how.frame, values=numbers, key=how.key).apply(shot) if numbers else shot
