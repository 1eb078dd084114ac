"""A mount: a part of the rig with a keyed move. Mounts form a chain from the ground to the lens."""

from __future__ import annotations

from typing import Annotated, Literal

import numpy as np
from pydantic import Field

from zittern.core.doc import Doc, Id, Label
from zittern.core.numbers.param import Param, bounded, fixed
from zittern.core.numbers.scope import Scope
from zittern.core.units import Array

__all__ = ["MOVE_FIELDS", "Mount", "MoveField"]

MoveField = Literal["x_m", "y_m", "z_m", "pan_deg", "tilt_deg", "roll_deg"]
MOVE_FIELDS: tuple[MoveField, ...] = ("x_m", "y_m", "z_m", "pan_deg", "tilt_deg", "roll_deg")

_Metres = Annotated[Param, bounded(-1e6, 1e6)]
_Degrees = Annotated[Param, bounded(-1e6, 1e6)]
_Offset = Annotated[float, Field(ge=-1e6, le=1e6)]


class Mount(Doc):
    """Pose relative to its parent (the ground for the first): metres and degrees, turning about `pivot_m`."""

    id: Id
    name: Label
    x_m: _Metres = fixed(0.0)
    y_m: _Metres = fixed(0.0)
    z_m: _Metres = fixed(0.0)
    pan_deg: _Degrees = fixed(0.0)
    tilt_deg: _Degrees = fixed(0.0)
    roll_deg: _Degrees = fixed(0.0)
    pivot_m: tuple[_Offset, _Offset, _Offset] = (0.0, 0.0, 0.0)

    def position_m(self, scope: Scope) -> Array:
        """(F, 3) metres in the parent's frame."""
        return np.stack([self.x_m.sample(scope), self.y_m.sample(scope), self.z_m.sample(scope)], axis=1)

    def angles_deg(self, scope: Scope) -> Array:
        """(F, 3) pan, tilt, roll in degrees."""
        return np.stack([self.pan_deg.sample(scope), self.tilt_deg.sample(scope), self.roll_deg.sample(scope)], axis=1)
