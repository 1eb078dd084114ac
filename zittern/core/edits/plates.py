"""Commands on plates: add, place, resize, remove; and on the whole move."""

from __future__ import annotations

from typing import Annotated

import numpy as np
from pydantic import Field

from zittern.core.documents.doc import Doc, Label
from zittern.core.edits.command import CommandDoc
from zittern.core.edits.parts import find_plate
from zittern.core.errors import EditError
from zittern.core.motion.facts import scope_at
from zittern.core.motion.move import bare_poses
from zittern.core.numbers.param import Number, fixed
from zittern.core.optics.lens import height_mm
from zittern.core.rig import rotations
from zittern.core.shot.ids import free_id, free_name
from zittern.core.shot.plates import MOST_PLATES, Digest, Opaque, Plate, SidePx
from zittern.core.shot.posed import MOVE_FIELDS
from zittern.core.shot.shot import Shot
from zittern.core.units import Array

__all__ = [
    "HangPlates", "Hung", "MovePath", "MovePlate", "RemovePlate", "SetPlateDistance", "ShowPicture", "SizePlate",
]  # fmt: skip

# Plates that are hung together without distances hang so far behind one another (times the one before).
_NEXT = 1.6
_NEAREST_M = 0.01
_Metres = Annotated[float, Field(ge=-1e5, le=1e5)]
# Properties of a plate that follow from its image.
_SHOWN = ("picture", "width_px", "height_px", "opaque")


class Hung(Doc):
    """A picture for a new plate; its content is stored already."""

    name: Label
    picture: Digest
    width_px: SidePx
    height_px: SidePx
    opaque: Opaque | None = None


class HangPlates(CommandDoc):
    """Add image plates in front of the lens at the first frame.

    The first one is the nearest, each next one is behind it: as large as fills the frame, plus an overscan.
    """

    plates: Annotated[tuple[Hung, ...], Field(min_length=1, max_length=MOST_PLATES)]
    distance_m: float = Field(default=4.0, ge=0.02, le=1e5)
    overscan_percent: float = Field(default=10.0, ge=0.0, le=500.0)

    def apply(self, shot: Shot) -> Shot:
        """Apply the command. Raises EditError for more plates than a shot may have."""
        if len(shot.plates) + len(self.plates) > MOST_PLATES:
            raise EditError(f"a shot has up to {MOST_PLATES} plates", "plates")
        hung, scope = list(shot.plates), scope_at(shot, float(shot.first_frame))
        lens, picture = bare_poses(shot, scope)[0], shot.picture
        sees = np.array([shot.sensor_mm, height_mm(shot.sensor_mm, picture.width_px, picture.height_px)])
        sees_per_m = sees / shot.lens_at(scope)
        angles = rotations.angles_of(lens[None, :3, :3])[0]
        for n, each in enumerate(self.plates):
            away = min(self.distance_m * _NEXT**n, 1e5)
            wide, high = away * sees_per_m
            width = max(wide, high * each.width_px / each.height_px) * (1.0 + self.overscan_percent / 100.0)
            values = (*(lens[:3, 3] - away * lens[:3, 2]), *angles)
            posed = {field: fixed(float(value)) for field, value in zip(MOVE_FIELDS, values, strict=True)}
            id_ = free_id(shot, "plate", (plate.id for plate in hung))
            name = free_name(each.name, {plate.name for plate in hung}, " ")
            shows = {field: getattr(each, field) for field in _SHOWN}
            hung.append(Plate.model_validate({"id": id_, "name": name, "width_m": float(width), **shows, **posed}))
        return shot.replace(plates=tuple(hung))

    def label(self, shot: Shot) -> str:
        """Return `Hang “Far shore”`, `Hang 4 plates`."""
        return f"Add plate “{self.plates[0].name}”" if len(self.plates) == 1 else f"Add {len(self.plates)} plates"


class SetPlateDistance(CommandDoc, label="Move {plate} to {distance_m:g} m"):
    """Move a plate along the line from the bare lens at the first frame.

    It is scaled, so that its size in that frame is unchanged.
    """

    plate: str
    distance_m: float = Field(ge=_NEAREST_M, le=1e5)

    def apply(self, shot: Shot) -> Shot:
        """Apply the command. Raises EditError for a plate that hangs behind the lens."""
        plate = find_plate(shot, self.plate)
        scope = shot.scope(float(shot.first_frame))
        eye = bare_poses(shot, scope)[0]
        centre = plate.position_m(scope)[0]
        before = float(-(centre - eye[:3, 3]) @ eye[:3, 2])
        if before < _NEAREST_M:
            raise EditError(
                f"“{plate.name}” hangs behind the lens at the first frame; place it in front of it first",
                f"plate:{plate.id}",
            )
        times = self.distance_m / before
        moved = _shifted_plate(plate, (times - 1.0) * (centre - eye[:3, 3]))
        return _with(shot, plate, moved.replace(width_m=plate.width_m * times))


class ShowPicture(CommandDoc, label="Show “{shows.name}” on {plate}"):
    """Shows another picture on a plate: as wide as before, as high as its shape asks for."""

    plate: str
    shows: Hung

    def apply(self, shot: Shot) -> Shot:
        """Apply the command. Raises EditError for a plate that is not there."""
        plate, shows = find_plate(shot, self.plate), self.shows
        return _with(shot, plate, plate.replace(**{field: getattr(shows, field) for field in _SHOWN}))


class SizePlate(CommandDoc):
    """Scale a plate about its center."""

    plate: str
    times: float = Field(gt=0.0, le=1000.0)

    def apply(self, shot: Shot) -> Shot:
        """Scale the plate; a curved one keeps its radius."""
        plate = find_plate(shot, self.plate)
        bend = min(plate.bend_deg * self.times, 180.0) if plate.shape != "flat" else plate.bend_deg
        return _with(shot, plate, plate.replace(width_m=plate.width_m * self.times, bend_deg=bend))

    def label(self, shot: Shot) -> str:
        """Return `Enlarge “Far shore” by 12 %`."""
        return f"Enlarge “{find_plate(shot, self.plate).name}” by {(self.times - 1.0) * 100.0:.1f} %"


class MovePlate(CommandDoc, label="Move {plate}"):
    """Move a plate along its own axes, keys included."""

    plate: str
    across_m: _Metres = 0.0
    up_m: _Metres = 0.0

    def apply(self, shot: Shot) -> Shot:
        """Move the plate to its own right and up, by its orientation at the first frame."""
        plate = find_plate(shot, self.plate)
        turn = rotations.matrices(plate.angles_deg(shot.scope(float(shot.first_frame))))[0]
        return _with(shot, plate, _shifted_plate(plate, turn[:, :2] @ np.array([self.across_m, self.up_m])))


class RemovePlate(CommandDoc, label="Remove {plate}"):
    """Remove a plate. Its picture stays while any revision uses it."""

    plate: str

    def apply(self, shot: Shot) -> Shot:
        """Apply the command. Raises EditError when it is not there."""
        plate = find_plate(shot, self.plate)
        return shot.replace(plates=tuple(each for each in shot.plates if each is not plate))


class MovePath(CommandDoc, label="Move the whole path"):
    """Move the whole path in the world, keys included; grounded plates and the subject follow."""

    x_m: _Metres = 0.0
    y_m: _Metres = 0.0
    z_m: _Metres = 0.0

    def apply(self, shot: Shot) -> Shot:
        """Move the first mount."""
        base, *rest = shot.mounts
        ways = {"x_m": self.x_m, "y_m": self.y_m, "z_m": self.z_m}
        return shot.replace(mounts=(base.replace(**_added(base, ways)), *rest))


def _shifted_plate(plate: Plate, way_m: Array) -> Plate:
    x, y, z = (float(each) for each in way_m)
    return plate.replace(**_added(plate, {"x_m": x, "y_m": y, "z_m": z}))


def _added(doc: Doc, ways: dict[str, float]) -> dict[str, Number]:
    """Numbers of a document with something added, keys too."""

    def add(number: Number, way: float) -> Number:
        return number.map(lambda value: value + way)

    return {name: add(getattr(doc, name), way) for name, way in ways.items() if way != 0.0}


def _with(shot: Shot, plate: Plate, changed: Plate) -> Shot:
    return shot.replace(plates=tuple(changed if each is plate else each for each in shot.plates))
