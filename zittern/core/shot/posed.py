"""A part with a position and angles that may be keyed."""

from __future__ import annotations

from typing import Annotated, Literal

import numpy as np

from zittern.core.axes import Axis, axis_index
from zittern.core.documents.doc import Doc
from zittern.core.numbers.limits import bounded
from zittern.core.numbers.param import Number, Param, fixed
from zittern.core.numbers.scope import Scope
from zittern.core.units import Array

__all__ = ["FIELD_AXES", "MOVE_FIELDS", "MoveField", "Posed"]

MoveField = Literal["x_m", "y_m", "z_m", "pan_deg", "tilt_deg", "roll_deg"]
MOVE_FIELDS: tuple[MoveField, ...] = ("x_m", "y_m", "z_m", "pan_deg", "tilt_deg", "roll_deg")
FIELD_AXES: dict[MoveField, Axis] = {
    "x_m": "truck",
    "y_m": "pedestal",
    "z_m": "dolly",
    "pan_deg": "pan",
    "tilt_deg": "tilt",
    "roll_deg": "roll",
}

_Metres = Annotated[Param, bounded(-1e6, 1e6)]
_Degrees = Annotated[Param, bounded(-1e6, 1e6)]


class Posed(Doc):
    """Position in meters, angles in degrees, in the frame of its parent."""

    x_m: _Metres = fixed(0.0)
    y_m: _Metres = fixed(0.0)
    z_m: _Metres = fixed(0.0)
    pan_deg: _Degrees = fixed(0.0)
    tilt_deg: _Degrees = fixed(0.0)
    roll_deg: _Degrees = fixed(0.0)

    def position_m(self, scope: Scope) -> Array:
        """Its place.

        Returns
        -------
        (F, 3) metres.
        """
        return np.stack([self.along(field, scope) for field in MOVE_FIELDS[:3]], axis=1)

    def angles_deg(self, scope: Scope) -> Array:
        """Its angles.

        Returns
        -------
        (F, 3) pan, tilt, roll in degrees.
        """
        return np.stack([self.along(field, scope) for field in MOVE_FIELDS[3:]], axis=1)

    def along(self, field: MoveField, scope: Scope) -> Array:
        """One of its numbers, on the axis that it moves along or about.

        Returns
        -------
        (F,) float64, meters or degrees.
        """
        number: Number = getattr(self, field)
        return number.sample(scope.on_axis(axis_index(FIELD_AXES[field])) if number.by_axis else scope)
