"""A rig that can be put into any shot."""

from __future__ import annotations

from typing import Annotated, Self

from pydantic import Field, model_validator

from zittern.core.documents.doc import Doc, Label
from zittern.core.presets.preset import PresetLine, check_mounts
from zittern.core.shot.mounts import Mount

__all__ = ["Rig"]


class Rig(Doc):
    """Name, a line about it, and its mounts from the ground to the lens.

    Ids of mounts are replaced by free ones at insertion.
    """

    name: Label
    line: PresetLine = ""
    mounts: Annotated[tuple[Mount, ...], Field(min_length=1, max_length=20)]

    @model_validator(mode="after")
    def _check_consistent(self) -> Self:
        check_mounts(self.mounts, "a rig")
        return self
