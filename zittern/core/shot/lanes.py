"""A lane: clips along time. Lanes add up."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from zittern.core.doc import Doc, Id, Label
from zittern.core.envelope import RampShape
from zittern.core.shot.clips import Clip

__all__ = ["Lane"]


class Lane(Doc):
    """Clips in the order in which they were put there; their spans say when each is heard. fade: how those that
    overlap go over into each other.
    """

    id: Id
    name: Label
    clips: Annotated[tuple[Clip, ...], Field(max_length=500)] = ()
    fade: RampShape = "equal-power"

    @classmethod
    def of(cls, clip: Clip) -> Lane:
        """A lane with one clip, called as it is."""
        return cls(id=clip.id, name=clip.name, clips=(clip,))
