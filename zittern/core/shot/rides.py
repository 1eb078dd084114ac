"""A ride: a mount is carried along by a moving object of the set."""

from __future__ import annotations

from typing import Annotated

import numpy as np
from pydantic import Field

from zittern.core.doc import Doc
from zittern.core.numbers.param import Param, bounded, fixed
from zittern.core.numbers.scope import Scope
from zittern.core.units import Array

__all__ = ["Ride"]

_Metres = Annotated[Param, bounded(-1e6, 1e6)]
_Degrees = Annotated[Param, bounded(-1e6, 1e6)]
_Share = Annotated[Param, bounded(0.0, 1.0)]


class Ride(Doc):
    """The path of an object in the world (metres, degrees), and how much of its motion carries the mount: of where it goes, and of how it turns.
    Only what happens while a weight is on counts, so that it comes on and goes off without a jump.
    """

    object: str = Field(min_length=1, max_length=200)
    x_m: _Metres = fixed(0.0)
    y_m: _Metres = fixed(0.0)
    z_m: _Metres = fixed(0.0)
    pan_deg: _Degrees = fixed(0.0)
    tilt_deg: _Degrees = fixed(0.0)
    roll_deg: _Degrees = fixed(0.0)
    position_weight: _Share = fixed(1.0)
    rotation_weight: _Share = fixed(1.0)

    def place_m(self, scope: Scope) -> Array:
        """Where the object is. (F, 3) metres in the world."""
        return np.stack([self.x_m.sample(scope), self.y_m.sample(scope), self.z_m.sample(scope)], axis=1)

    def angles_deg(self, scope: Scope) -> Array:
        """(F, 3) pan, tilt, roll in degrees."""
        return np.stack([self.pan_deg.sample(scope), self.tilt_deg.sample(scope), self.roll_deg.sample(scope)], axis=1)
