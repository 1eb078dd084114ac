"""The axes of a camera, with the names of a crew: seven of the camera and its lens, two of its film back."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal, get_args

__all__ = ["AXES", "AXIS_INFO", "ROTATIONS", "SHIFTS", "TRANSLATIONS", "Axis", "AxisInfo", "axis_index", "axis_title"]

Axis = Literal["pan", "tilt", "roll", "truck", "pedestal", "dolly", "zoom", "shift_x", "shift_y"]
AXES: tuple[Axis, ...] = get_args(Axis)
ROTATIONS: tuple[Axis, ...] = AXES[:3]
TRANSLATIONS: tuple[Axis, ...] = AXES[3:6]
# Picture shifts by the film back: percent of picture width and height. They neither rotate nor scale it.
SHIFTS: tuple[Axis, ...] = AXES[7:9]


@dataclass(frozen=True, slots=True)
class AxisInfo:
    """Properties of an axis.

    The unit of a layer's offsets in words and as a sign, names of both directions, the largest swing, and the step of a
    fine change. title: display name. folds: forms show it on request, or when it moves.
    """

    name: Axis
    unit: str
    sign: str
    plus: str
    minus: str
    most_swing: float
    step: float
    title: str
    folds: bool = False


AXIS_INFO: tuple[AxisInfo, ...] = (
    AxisInfo("pan", "deg", "°", "left", "right", 180.0, 0.02, "pan"),
    AxisInfo("tilt", "deg", "°", "up", "down", 90.0, 0.02, "tilt"),
    AxisInfo("roll", "deg", "°", "counter-clockwise", "clockwise", 180.0, 0.02, "roll"),
    AxisInfo("truck", "cm", "cm", "right", "left", 10_000.0, 0.05, "truck"),
    AxisInfo("pedestal", "cm", "cm", "up", "down", 10_000.0, 0.05, "pedestal"),
    AxisInfo("dolly", "cm", "cm", "forward", "back", 10_000.0, 0.05, "dolly"),
    AxisInfo("zoom", "%", "%", "longer", "wider", 90.0, 0.02, "zoom"),
    AxisInfo("shift_x", "%", "%", "right", "left", 100.0, 0.02, "shift x", folds=True),
    AxisInfo("shift_y", "%", "%", "up", "down", 100.0, 0.02, "shift y", folds=True),
)


def axis_index(axis: Axis) -> int:
    """Column of an axis in arrays of shape (F, 9)."""
    return AXES.index(axis)


def axis_title(axis: Axis) -> str:
    """Return the display name of an axis."""
    return AXIS_INFO[axis_index(axis)].title
