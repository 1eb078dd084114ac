"""A cue: a named moment, with a strength and perhaps a place in the set. Sources of motion that answer to moments
look at the cues.
"""

from __future__ import annotations

from typing import Annotated, ClassVar

from pydantic import Field, StringConstraints

from zittern.core.doc import Doc, Id
from zittern.core.numbers.curves import Frame
from zittern.core.timemarks import AT

__all__ = ["MOST_CUES", "Cue", "CueIn", "CueName", "Place", "Strength"]

MOST_CUES = 10_000
CueName = Annotated[str, StringConstraints(strip_whitespace=True, max_length=60)]
_Metres = Annotated[float, Field(ge=-1e6, le=1e6)]
Strength = Annotated[float, Field(ge=0.0, le=10.0)]
Place = tuple[_Metres, _Metres, _Metres]


class CueIn(Doc):
    """A cue that has no id yet. frame: fractional ones too, and such as lie outside of the shot. place_m: metres in
    the world.
    """

    still: ClassVar[frozenset[str]] = frozenset({"name"})

    frame: Annotated[Frame, AT]
    name: CueName = ""
    strength: Strength = 1.0
    place_m: Place | None = None

    def called(self, id_: str) -> Cue:
        """The same as a cue of its own."""
        return Cue(id=id_, frame=self.frame, name=self.name, strength=self.strength, place_m=self.place_m)


class Cue(CueIn):
    """A cue of a shot."""

    id: Id
