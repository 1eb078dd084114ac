"""A new shot from a file of any format that can be imported.

A camera path becomes its move, a shot document is opened unchanged.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from pathlib import Path, PurePath

from zittern.core.edits.moves import ReplaceMove
from zittern.core.errors import FormatError, faults_as
from zittern.core.shot.shot import Shot, new_shot
from zittern.core.timebase import Fps
from zittern.formats.files import Sidecars, read_bytes, sidecars_of
from zittern.formats.table import format_of, read_as, reader_of
from zittern.formats.world_axes import UNCHANGED, Reading, converted, readings

__all__ = ["Opened", "fps_from", "open_path", "open_shot"]

_NAME_LENGTH = 120


@dataclass(frozen=True, slots=True)
class Opened:
    """A shot, the label of its first revision, and the notices of the reader."""

    shot: Shot
    label: str
    notices: tuple[str, ...] = ()


def open_shot(
    filename: str,
    data: bytes,
    sidecars: Sidecars,
    camera: str | None,
    fps: Fps | None,
    name: str | None = None,
    reading: Reading = UNCHANGED,
) -> Opened:
    """Return the shot of a file.

    `camera`, `fps` and `reading` count for camera paths; without a rate the file's own, else 24, does. Raises
    FormatError or DocumentError with the place of the fault.
    """
    plain = PurePath(filename).name[:_NAME_LENGTH]
    found = format_of(filename, data)
    if found.kind == "shot":
        shot = read_as("shot", data)
        return Opened(shot if name is None else shot.replace(name=name), f"Open “{plain}”")
    path = reader_of(filename, data)(data, sidecars)
    rate = fps or path.fps or Fps(num=24)
    imported = path.read(camera, rate)
    *_, likely = readings(imported.samples, rate.value)
    imported = replace(imported, samples=converted(imported.samples, reading))
    command = ReplaceMove(move=imported.move, name=plain, with_rig=True)
    first = 1 if path.first_frame is None else path.first_frame
    with faults_as(FormatError, "name"):
        shot = new_shot(
            name or plain.split(".")[0].strip() or "Imported", fps=rate, first_frame=first, last_frame=first
        )
        shot = command.apply(shot)
    suspected = (
        f"the picture suggests {likely.says}; import again with that option if the view is tilted or too far away"
    )
    doubts = (suspected,) if likely not in (UNCHANGED, reading) else ()
    return Opened(shot, command.label(shot), (*imported.notices, *doubts))


def open_path(
    path: Path, camera: str | None, fps: Fps | None, name: str | None = None, reading: Reading = UNCHANGED
) -> Opened:
    """Return the shot of a file on disk; as `open_shot`."""
    return open_shot(path.name, read_bytes(path), sidecars_of(path), camera, fps, name, reading)


def fps_from(text: str | None, where: str) -> Fps | None:
    """Return a frame rate as people write it; none for none. Raises FormatError."""
    if text is None:
        return None
    with faults_as(FormatError, where):
        return Fps.model_validate(text)
