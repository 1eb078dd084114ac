"""A blend: a clip whose layers belong to corners, and a position among these. Layers of no corner count everywhere."""

from __future__ import annotations

from typing import Annotated, ClassVar, Literal, Self

from pydantic import Field, model_validator

from zittern.core.documents.doc import Doc, Id, Label
from zittern.core.numbers.limits import bounded
from zittern.core.numbers.param import Param, fixed
from zittern.core.shot.pad import FEWEST_CORNERS, MOST_CORNERS

__all__ = ["Blend", "Corner"]


class Corner(Doc):
    """A corner of the pad: the layers of the clip that name it."""

    motion_irrelevant: ClassVar[frozenset[str]] = frozenset({"name"})

    id: Id
    name: Label


class Blend(Doc):
    """method: *mix* is the weighted sum of the corners.

    *morph* interpolates the numbers of similar layers, so that one walker is interpolated between two, and mixes the
    rest. across_percent, up_percent: the position, from the left and lower edge of the pad; with two corners only the
    first is used.
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
        """Return the index of the corner with an id; None for a layer without a corner."""
        return next((n for n, each in enumerate(self.corners) if each.id == corner), None)
