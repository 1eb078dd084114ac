"""THE TABLE of formats. Another format adds a module and a row."""

from __future__ import annotations

import io
from collections.abc import Callable, Iterable
from dataclasses import dataclass
from pathlib import PurePath
from typing import IO

from zittern.core.errors import FormatError
from zittern.core.motion.evaluate import Motion
from zittern.core.shot.shot import Shot
from zittern.core.units import Array
from zittern.formats import csv_path, gltf_read, gltf_write, shot_json
from zittern.formats.files import Sidecars
from zittern.formats.paths import PathFile

__all__ = ["FORMATS", "Format", "format_named", "format_of", "reader_of", "written"]

Reader = Callable[[bytes, Sidecars], PathFile]
# What, at which frames, its motion there in parts, where to.
Writer = Callable[[Shot, Array, Iterable[Motion], IO[bytes]], None]


@dataclass(frozen=True, slots=True)
class Format:
    """A format: its file ending, what it is for, how to read a path from it, write a shot to it, or open a shot that is kept in it."""

    name: str
    ending: str
    title: str
    media_type: str
    read: Reader | None
    write: Writer | None
    opens: Callable[[bytes], Shot] | None = None


FORMATS: tuple[Format, ...] = (
    Format("glb", ".glb", "GLB: path, layers and lens as nested nodes, one binary file", "model/gltf-binary", gltf_read.read, gltf_write.write_glb),
    Format("gltf", ".gltf", "glTF: the same as readable JSON", "model/gltf+json", gltf_read.read, gltf_write.write_gltf),
    Format("csv", ".csv", "CSV: one row a frame, world pose and focal length", "text/csv", csv_path.read, csv_path.write),
    Format("shot", ".shot.json", "Shot: the editable document itself", "application/json", None, shot_json.write, shot_json.read),
)


def format_of(filename: str) -> Format:
    """The format of a file by its ending. Raises FormatError."""
    name = PurePath(filename).name.lower()
    for each in FORMATS:
        if name.endswith(each.ending):
            return each
    raise FormatError(f"unknown file ending {PurePath(name).suffix or name!r}; known are {', '.join(each.ending for each in FORMATS)}")


def format_named(name: str) -> Format:
    """A format by its short name. Raises FormatError."""
    for each in FORMATS:
        if each.name == name:
            return each
    raise FormatError(f"unknown format {name!r}; known are {', '.join(each.name for each in FORMATS)}", "format")


def written(name: str, shot: Shot, motion: Motion) -> bytes:
    """A shot's motion in a format, in memory. Raises FormatError."""
    write = format_named(name).write
    if write is None:
        raise FormatError(f"the format {name!r} is only read", "format")
    file = io.BytesIO()
    write(shot, motion.frames, [motion], file)
    return file.getvalue()


def reader_of(filename: str) -> Reader:
    """How to read a camera path from a file. Raises FormatError."""
    found = format_of(filename)
    if found.read is None:
        known = ", ".join(each.ending for each in FORMATS if each.read)
        raise FormatError(f"camera paths are read from {known}, not from {found.ending}")
    return found.read
