"""The seven axes of a camera, named as a crew names moves."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal, get_args

__all__ = ["AXES", "AXIS_INFO", "ROTATIONS", "TRANSLATIONS", "Axis", "AxisInfo", "axis_index"]

Axis = Literal["pan", "tilt", "roll", "truck", "pedestal", "dolly", "zoom"]
AXES: tuple[Axis, ...] = get_args(Axis)
ROTATIONS: tuple[Axis, ...] = AXES[:3]
TRANSLATIONS: tuple[Axis, ...] = AXES[3:6]


@dataclass(frozen=True, slots=True)
class AxisInfo:
    """Unit of a layer's offsets on an axis, in words and as a sign, what its two directions are called, the largest
    swing, and the step of a fine change.
    """

    name: Axis
    unit: str
    sign: str
    plus: str
    minus: str
    most_swing: float
    step: float


AXIS_INFO: tuple[AxisInfo, ...] = (
    AxisInfo("pan", "deg", "°", "left", "right", 180.0, 0.02),
    AxisInfo("tilt", "deg", "°", "up", "down", 90.0, 0.02),
    AxisInfo("roll", "deg", "°", "counter-clockwise", "clockwise", 180.0, 0.02),
    AxisInfo("truck", "cm", "cm", "right", "left", 10_000.0, 0.05),
    AxisInfo("pedestal", "cm", "cm", "up", "down", 10_000.0, 0.05),
    AxisInfo("dolly", "cm", "cm", "forward", "back", 10_000.0, 0.05),
    AxisInfo("zoom", "%", "%", "longer", "wider", 90.0, 0.02),
)


def axis_index(axis: Axis) -> int:
    """Column of an axis in arrays of shape (F, 7)."""
    return AXES.index(axis)
