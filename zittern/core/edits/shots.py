"""Properties of the whole shot: name, frame rate, range, resolution, sensor, set."""

from __future__ import annotations

from typing import Annotated, ClassVar, Literal

from pydantic import Field, StringConstraints

from zittern.core.documents.doc import Label
from zittern.core.edits.command import CommandDoc
from zittern.core.edits.titles import field_title
from zittern.core.shot.shot import Picture, Shot
from zittern.core.timebase import Fps
from zittern.core.timing.carry import retimed
from zittern.core.timing.time_map import TimeMap

__all__ = ["SetShot"]

_Frame = Annotated[int, Field(ge=-1_000_000, le=10_000_000)]


class SetShot(CommandDoc):
    """Set the given properties as one step.

    keep: what keys, spans and ramps keep when the frame rate changes, their frames or their seconds. along: whether
    they move along when the first frame does.
    """

    everywhere: ClassVar[bool] = True

    name: Label | None = None
    fps: Fps | None = None
    first_frame: _Frame | None = None
    last_frame: _Frame | None = None
    picture: Picture | None = None
    sensor_mm: float | None = Field(default=None, ge=1.0, le=200.0)
    set_id: Annotated[str, StringConstraints(max_length=64)] | None = None
    keep: Literal["frames", "seconds"] = "frames"
    along: bool = False

    def _set_fields(self) -> dict[str, object]:
        fields = ("name", "fps", "first_frame", "last_frame", "picture", "sensor_mm", "set_id")
        return {
            field: getattr(self, field)
            for field in fields
            if getattr(self, field) is not None or field in self.model_fields_set & {"set_id"}
        }

    def apply(self, shot: Shot) -> Shot:
        """Apply the command.

        Raises EditError for a range that is upside down, and when something would be moved out of reach.
        """
        moved = shot
        if self.fps is not None and self.keep == "seconds":
            moved = retimed(moved, TimeMap.even(factor=self.fps.value / shot.fps.value, about_frame=shot.first_frame))
        if self.first_frame is not None and self.along:
            moved = retimed(moved, TimeMap.even(shift_frames=self.first_frame - moved.first_frame))
        return moved.replace(**self._set_fields())

    def label(self, shot: Shot) -> str:
        """Return `Set frame rate, first frame`."""
        changed = [field for field, value in self._set_fields().items() if value != getattr(shot, field)]
        return f"Set {', '.join(field_title(field) for field in changed) or 'shot'}"
