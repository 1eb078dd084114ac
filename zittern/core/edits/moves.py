"""A camera move brought in from a file."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from zittern.core.doc import Doc
from zittern.core.edits.command import CommandDoc
from zittern.core.params import Param
from zittern.core.shot.mounts import MOVE_FIELDS
from zittern.core.shot.shot import Picture, Shot

__all__ = ["Move", "ReplaceMove"]


class Move(Doc):
    """A camera path: position in metres, angles in degrees, focal length; frame 1 is its time 0."""

    x_m: Param
    y_m: Param
    z_m: Param
    pan_deg: Param
    tilt_deg: Param
    roll_deg: Param
    focal_mm: Param | None = None
    picture: Picture | None = None
    sensor_mm: float | None = None
    last_frame: int


class ReplaceMove(CommandDoc):
    """Puts a path in place of the shot's own move. Layers stay. The rig becomes one mount; the range becomes the path's."""

    type: Literal["replace_move"] = "replace_move"
    move: Move
    name: str = Field(max_length=120)

    def apply(self, shot: Shot) -> Shot:
        """Layers on mounts that go act at the lens end from then on."""
        mount = shot.mounts[0].replace(pivot_m=(0.0, 0.0, 0.0), **{field: getattr(self.move, field) for field in MOVE_FIELDS})
        clips = tuple(
            clip.replace(layers=tuple(layer.replace(target=None) if layer.target not in (None, mount.id) else layer for layer in clip.layers))
            for clip in shot.clips
        )
        changes: dict[str, object] = {"mounts": (mount,), "clips": clips, "first_frame": 1, "last_frame": self.move.last_frame}
        for field in ("focal_mm", "picture", "sensor_mm"):
            value = getattr(self.move, field)
            if value is not None:
                changes[field] = value
        return shot.replace(**changes)

    def label(self, shot: Shot) -> str:
        """`Bring in move “follow.glb”`."""
        return f"Bring in move “{self.name}”"
