"""A ride: a mount is carried along by a moving object of the set."""

from __future__ import annotations

from typing import Annotated, ClassVar

from pydantic import Field

from zittern.core.numbers.limits import bounded
from zittern.core.numbers.param import Param, fixed
from zittern.core.shot.posed import Posed

__all__ = ["Ride"]

_Share = Annotated[Param, bounded(0.0, 1.0)]


class Ride(Posed):
    """The path of an object in the world (meters, degrees), and the shares that carry the mount.

    One share for its translation, one for its rotation. Only motion while a weight is on counts, so that it starts and
    ends without a jump.
    """

    motion_irrelevant: ClassVar[frozenset[str]] = frozenset({"object"})

    object: str = Field(min_length=1, max_length=200)
    position_weight: _Share = fixed(1.0)
    rotation_weight: _Share = fixed(1.0)
