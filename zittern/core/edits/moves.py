"""A camera move brought in from a file, in place of the shot's own or riding on it."""

from __future__ import annotations

import numpy as np
from pydantic import Field

from zittern.core.documents.doc import Doc
from zittern.core.edits.command import CommandDoc
from zittern.core.errors import EditError
from zittern.core.numbers.param import Param, fixed, linear_keys
from zittern.core.rig import rotations, transforms
from zittern.core.shot.mounts import MOVE_FIELDS, Mount
from zittern.core.shot.path_facts import FACT_NAMES
from zittern.core.shot.reads import check_reads
from zittern.core.shot.shot import MOST_FRAMES, Picture, Shot
from zittern.core.shot.through_variant import with_mounts
from zittern.core.timing.carry import retimed
from zittern.core.timing.time_map import TimeMap

__all__ = ["AddMove", "Move", "ReplaceMove"]

# Frame of a path's time 0.
_PATH_START = 1
# A path that rides on the move is keyed on every frame; longer ones could not be edited.
_MOST_ADDED_FRAMES = 20_000


class Move(Doc):
    """A camera path: position in metres, angles in degrees, focal length; frame 1 is its time 0.

    rig: mounts that give the same path, if any.
    """

    x_m: Param
    y_m: Param
    z_m: Param
    pan_deg: Param
    tilt_deg: Param
    roll_deg: Param
    focal_mm: Param | None = None
    picture: Picture | None = None
    sensor_mm: float | None = None
    last_frame: int = Field(ge=_PATH_START, le=MOST_FRAMES)
    rig: tuple[Mount, ...] = Field(default=(), max_length=50)


class ReplaceMove(CommandDoc, label="Import move “{name}”"):
    """Replace the shot's move with a path.

    Layers stay. The rig becomes one mount, or optionally the imported one; the range keeps its start and gets the
    path's length.
    """

    move: Move
    name: str = Field(max_length=120)
    with_rig: bool = False

    def apply(self, shot: Shot) -> Shot:
        """Layers on mounts that go act at the lens end from then on."""
        # The path's time 0 is placed at the shot's first frame: layers stay where they are.
        move = retimed(self.move, TimeMap.even(shift_frames=shot.first_frame - _PATH_START))
        plain: dict[str, object] = {
            "pivot_m": (0.0, 0.0, 0.0),
            "length_m": fixed(0.0),
            **dict.fromkeys(("ride", "operator", "springs")),
        }
        plain |= {"mute": False, "solo": False}
        mount = shot.mounts[0].replace(**plain, **{field: getattr(move, field) for field in MOVE_FIELDS})
        changes: dict[str, object] = {"last_frame": shot.first_frame + move.last_frame - _PATH_START}
        for field in ("focal_mm", "picture", "sensor_mm"):
            value = getattr(move, field)
            if value is not None:
                changes[field] = value
        rig = (
            tuple(each.replace(mute=False, solo=False) for each in move.rig) if self.with_rig and move.rig else (mount,)
        )
        return with_mounts(shot, rig).replace(**changes)


class AddMove(CommandDoc, label="Add move “{name}”"):
    """Add a path to the shot's own move.

    A further mount at the lens end, which departs from there as the path departs from its own first pose. The shot's
    range, lens and picture stay.
    """

    move: Move
    name: str = Field(max_length=120)

    def apply(self, shot: Shot) -> Shot:
        """Return the path starts at the shot's first frame, from rest: at its first frame nothing changes."""
        if self.move.last_frame > _MOST_ADDED_FRAMES:
            most = f"a path that rides on the move has up to {_MOST_ADDED_FRAMES} frames, got {self.move.last_frame}"
            raise EditError(f"{most}; import it as the move instead, or shorten it", "move.last_frame")
        frames = np.arange(_PATH_START, self.move.last_frame + 1, dtype=np.float64)
        path = Mount(id="path", name="Path", **{field: getattr(self.move, field) for field in MOVE_FIELDS})
        # It is sampled before the shot it becomes a part of is looked through.
        try:
            check_reads(shot.dials, [path], [], FACT_NAMES)
        except ValueError as problem:
            raise EditError(str(problem), "move") from None
        scope = shot.scope(frames)
        poses = transforms.from_parts(path.position_m(scope), path.angles_deg(scope))
        relative = np.linalg.inv(poses[0]) @ poses
        columns = np.concatenate([relative[:, :3, 3], rotations.continuous(relative[:, :3, :3])], axis=1)
        at = frames - _PATH_START + shot.first_frame
        taken = {mount.id for mount in shot.mounts}
        free = next(f"path-{n}" for n in range(1, len(taken) + 2) if f"path-{n}" not in taken)
        numbers = {field: linear_keys(at, columns[:, i]) for i, field in enumerate(MOVE_FIELDS)}
        # Where some mounts are soloed, the new one is too: an imported path moves.
        return shot.replace(
            mounts=(
                *shot.mounts,
                Mount(id=free, name=self.name, solo=any(mount.solo for mount in shot.mounts), **numbers),
            )
        )
