"""A cue: a named moment, with a strength and perhaps a place in the set, or something that it happens at.

Sources of motion that answer to moments look at the cues.
"""

from __future__ import annotations

from typing import Annotated, ClassVar, Self

from pydantic import Field, StringConstraints, model_validator

from zittern.core.documents.doc import Doc, Id
from zittern.core.documents.timemarks import AT
from zittern.core.numbers.curves import Frame
from zittern.core.shot.reads import looks_at_frames_only, numbers_in
from zittern.core.shot.targets import Target, simple

__all__ = ["MOST_CUES", "MOST_CUE_KEYS", "Cue", "CueIn", "CueName", "Place", "Strength"]

MOST_CUES = 10_000
# Each has the whole path of its object with it.
MOST_CUE_KEYS = 200_000
CueName = Annotated[str, StringConstraints(strip_whitespace=True, max_length=60)]
_Metres = Annotated[float, Field(ge=-1e6, le=1e6)]
Strength = Annotated[float, Field(ge=0.0, le=10.0)]
Place = tuple[_Metres, _Metres, _Metres]


class CueIn(Doc):
    """A cue without an id.

    frame: may be fractional, and outside the shot. place_m: meters in the world; on: instead of a position a target,
    whose position at the cue's frame is used.
    """

    motion_irrelevant: ClassVar[frozenset[str]] = frozenset({"name"})

    frame: Annotated[Frame, AT]
    name: CueName = ""
    strength: Strength = 1.0
    place_m: Place | None = None
    on: Target | None = None

    @model_validator(mode="after")
    def _in_one_place(self) -> Self:
        if self.on is None:
            return self
        if self.place_m is not None:
            raise ValueError("a cue has a position (place_m) or a target (on), not both")
        if not all(map(looks_at_frames_only, simple(self.on))):
            raise ValueError(
                "the position of a cue's target must be fixed or keyed: it cannot read a dial, span or axis"
            )
        return self

    @property
    def placed(self) -> bool:
        """Return whether it has a position."""
        return self.place_m is not None or self.on is not None

    @property
    def keys(self) -> int:
        """Return the number of keys of its target's path."""
        if self.on is None:
            return 0
        curves = [number.curve for part in simple(self.on) for number in numbers_in(part)]
        return sum(len(curve.keys) for curve in curves if curve is not None)

    def with_id(self, id_: str) -> Cue:
        """Return the cue with an id."""
        return Cue(id=id_, frame=self.frame, name=self.name, strength=self.strength, place_m=self.place_m, on=self.on)


class Cue(CueIn):
    """A cue of a shot."""

    id: Id
