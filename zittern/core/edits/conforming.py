"""A shot conformed to its range in a cut."""

from __future__ import annotations

from typing import Annotated, ClassVar

from pydantic import Field

from zittern.core.edits.command import CommandDoc
from zittern.core.edits.rippling import with_time_edit
from zittern.core.edits.timing import MOST_INSERTED
from zittern.core.errors import EditError
from zittern.core.shot.shot import Shot
from zittern.core.timing.ripple import Runs
from zittern.core.timing.time_map import TimeMap

__all__ = ["ConformToCut"]

_Whole = Annotated[int, Field(ge=-1_000_000, le=10_000_000)]


class ConformToCut(CommandDoc, label="Conform to cut: frames {first_frame} to {last_frame}"):
    """The shot's range becomes the frames that a cut shows, and some more on both sides (handles).

    Where they last longer or shorter there, they are stretched first. Keys outside stay: they are there when the cut
    changes.
    """

    everywhere: ClassVar[bool] = True

    first_frame: _Whole
    last_frame: _Whole
    frames: Annotated[int, Field(ge=1, le=MOST_INSERTED)]
    handles: Annotated[int, Field(ge=0, le=10_000)] = 0
    runs: Runs = "on"

    def apply(self, shot: Shot) -> Shot:
        """Apply the command. Raises EditError for a range that ends before it starts, and for one outside the shot."""
        if self.last_frame < self.first_frame:
            raise EditError(f"the range ends at frame {self.last_frame}, before it starts", "last_frame")
        if self.last_frame < shot.first_frame or self.first_frame > shot.last_frame:
            raise EditError(
                f"the cut shows frames {self.first_frame} to {self.last_frame}; the shot has {shot.first_frame} to "
                f"{shot.last_frame}",
                "first_frame",
            )
        if self.frames != self.last_frame - self.first_frame + 1:
            around = shot.replace(
                first_frame=min(shot.first_frame, self.first_frame), last_frame=max(shot.last_frame, self.last_frame)
            )
            shot = with_time_edit(
                around, TimeMap.stretched(self.first_frame, self.last_frame + 1, self.frames), self.runs
            )
        return shot.replace(
            first_frame=self.first_frame - self.handles, last_frame=self.first_frame + self.frames - 1 + self.handles
        )

    def says(self, shot: Shot) -> tuple[str, ...]:
        """Describe the changes before they are applied."""
        after = self.apply(shot)
        used = self.last_frame - self.first_frame + 1
        told = [
            f"the shot goes from frame {after.first_frame} to {after.last_frame} "
            f"({shot.first_frame} to {shot.last_frame} before)"
        ]
        if self.handles:
            told.append(f"{self.handles} frames of handles on both sides")
        if self.frames != used:
            told.append(f"time runs at {100.0 * used / self.frames:.4g} %: {used} frames last {self.frames}")
        return tuple(told)
