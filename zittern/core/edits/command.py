"""Base of all commands, and the names of fields as people read them."""

from __future__ import annotations

from typing import ClassVar

from zittern.core.doc import Doc
from zittern.core.forms import SAID
from zittern.core.shot.shot import Shot

__all__ = ["CommandDoc", "field_title"]

_TITLES = {
    **SAID, "swing": "swing", "pace": "rate", "rate_hz": "rate", "on": "axis on or off", "locked": "axis lock",
    "shape": "wave shape",
    "mute": "mute", "solo": "solo", "name": "name", "mode": "add or replace", "span_frames": "span",
    "ramp_in_frames": "ramp-in",
    "ramp_out_frames": "ramp-out", "sensor_mm": "sensor width", "first_frame": "first frame",
    "last_frame": "last frame", "fps": "frame rate",
    "set_id": "set", "target": "target mount",
}  # fmt: skip


def field_title(field: str) -> str:
    """A field's name for people."""
    return _TITLES.get(field, field.replace("_", " "))


class CommandDoc(Doc):
    """A command: pure, typed, with a readable label. everywhere: whether it is about all variants, not only the one
    that stands in the shot.
    """

    everywhere: ClassVar[bool] = False

    def apply(self, shot: Shot) -> Shot:
        """The changed shot. Raises EditError."""
        raise NotImplementedError

    def label(self, shot: Shot) -> str:
        """What people see in undo: the shot is the one before."""
        raise NotImplementedError
