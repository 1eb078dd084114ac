"""Commands on the camera's move: keys, and a move brought in from a file."""

from __future__ import annotations

from typing import Annotated, Literal

import numpy as np
from pydantic import Field

from zittern.core.curves import Curve, Key
from zittern.core.doc import Doc
from zittern.core.edits.address import get_at, set_at
from zittern.core.edits.command import CommandDoc
from zittern.core.errors import EditError
from zittern.core.params import Fixed, Keyed, Param
from zittern.core.shot.mounts import MOVE_FIELDS, MoveField
from zittern.core.shot.shot import Picture, Shot

__all__ = ["DeleteKeys", "Move", "MoveKeys", "ReplaceMove", "SetKeys"]


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


_Fields = Annotated[tuple[MoveField, ...], Field(min_length=1)]


class SetKeys(CommandDoc):
    """Sets a key on axes of a mount at a frame: the values given, or what the move already does there."""

    type: Literal["set_keys"] = "set_keys"
    mount: str
    frame: float
    fields: _Fields = MOVE_FIELDS
    values: tuple[float, ...] | None = None

    def apply(self, shot: Shot) -> Shot:
        """A key at the same frame is replaced and keeps its interpolation."""
        if self.values is not None and len(self.values) != len(self.fields):
            raise EditError(f"{len(self.fields)} axes need {len(self.fields)} values, got {len(self.values)}", "values")
        for i, field in enumerate(self.fields):
            address = f"mount:{self.mount}.{field}"
            param: Fixed | Keyed = get_at(shot, address)
            value = float(param.sample(np.array([self.frame]))[0]) if self.values is None else self.values[i]
            shot = set_at(shot, address, _with_key(param, self.frame, value))
        return shot

    def label(self, shot: Shot) -> str:
        """`Set key at frame 24`."""
        return f"Set key at frame {self.frame:g}"


class MoveKeys(CommandDoc):
    """Moves the keys of a mount at some frames by a number of frames."""

    type: Literal["move_keys"] = "move_keys"
    mount: str
    frames: tuple[float, ...] = Field(min_length=1)
    by: float

    def apply(self, shot: Shot) -> Shot:
        """Keys that would land on others replace them."""
        return _each_keyed(shot, self.mount, self._moved)

    def _moved(self, curve: Curve) -> Curve:
        moving = [key.replace(frame=key.frame + self.by) for key in curve.keys if key.frame in self.frames]
        landed = {key.frame for key in moving}
        rest = [key for key in curve.keys if key.frame not in self.frames and key.frame not in landed]
        return curve.replace(keys=tuple(sorted((*moving, *rest), key=lambda key: key.frame)))

    def label(self, shot: Shot) -> str:
        """`Move key by 4 frames`."""
        return f"Move {'key' if len(self.frames) == 1 else 'keys'} by {self.by:+g} frames"


class DeleteKeys(CommandDoc):
    """Deletes the keys of a mount at some frames; an axis without keys keeps its last value, fixed."""

    type: Literal["delete_keys"] = "delete_keys"
    mount: str
    frames: tuple[float, ...] = Field(min_length=1)

    def apply(self, shot: Shot) -> Shot:
        """Raises EditError when the mount is not there."""
        return _each_keyed(shot, self.mount, self._thinned)

    def _thinned(self, curve: Curve) -> Curve | Fixed:
        kept = tuple(key for key in curve.keys if key.frame not in self.frames)
        return curve.replace(keys=kept) if kept else Fixed(value=curve.keys[-1].value)

    def label(self, shot: Shot) -> str:
        """`Delete key at frame 24`."""
        return f"Delete key at frame {self.frames[0]:g}" if len(self.frames) == 1 else f"Delete keys at {len(self.frames)} frames"


def _with_key(param: Fixed | Keyed, frame: float, value: float) -> Keyed:
    old = param.curve if isinstance(param, Keyed) else None
    keys = {key.frame: key for key in (old.keys if old else ())}
    if frame in keys:
        keys[frame] = keys[frame].replace(value=value)
    else:
        before = [key for key in keys.values() if key.frame < frame]
        keys[frame] = Key(frame=frame, value=value, interp=max(before, key=lambda key: key.frame).interp if before else "smooth")
    ordered = tuple(keys[f] for f in sorted(keys))
    return Keyed(curve=old.replace(keys=ordered) if old else Curve(keys=ordered))


def _each_keyed(shot: Shot, mount: str, change: object) -> Shot:
    for field in MOVE_FIELDS:
        address = f"mount:{mount}.{field}"
        param = get_at(shot, address)
        if isinstance(param, Keyed):
            changed = change(param.curve)  # type: ignore[operator]
            shot = set_at(shot, address, Keyed(curve=changed) if isinstance(changed, Curve) else changed)
    return shot
