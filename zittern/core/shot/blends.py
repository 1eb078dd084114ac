"""A blend: a clip whose layers belong to corners, and a place among these. Layers of no corner count everywhere."""

from __future__ import annotations

from typing import Annotated, ClassVar, Literal, Self

from pydantic import Field, model_validator

from zittern.core.documents.doc import Doc, Id, Label
from zittern.core.numbers.limits import bounded
from zittern.core.numbers.param import Param, fixed
from zittern.core.shot.pad import FEWEST_CORNERS, MOST_CORNERS

__all__ = ["Blend", "Corner"]


class Corner(Doc):
    """What stands in a corner of the pad: the layers of the clip that name it."""

    still: ClassVar[frozenset[str]] = frozenset({"name"})

    id: Id
    name: Label


class Blend(Doc):
    """method: *mix* adds what the corners give, each by its weight; *morph* blends the numbers of layers that are
    alike, so that one walker lies between two, and mixes the rest. across_percent, up_percent: the place, from the left
    and lower edge of the pad; with two corners only the first counts.
    """

    method: Literal["mix", "morph"] = "mix"
    corners: Annotated[tuple[Corner, ...], Field(min_length=FEWEST_CORNERS, max_length=MOST_CORNERS)]
    across_percent: Annotated[Param, bounded(0.0, 100.0)] = fixed(50.0)
    up_percent: Annotated[Param, bounded(0.0, 100.0)] = fixed(50.0)

    @model_validator(mode="after")
    def _apart(self) -> Self:
        ids = [corner.id for corner in self.corners]
        if len(set(ids)) < len(ids):
            raise ValueError("two corners have the same id; each has its own")
        return self

    def index_of(self, corner: str | None) -> int | None:
        """Which corner an id names; none for a layer of no corner."""
        return next((n for n, each in enumerate(self.corners) if each.id == corner), None)
