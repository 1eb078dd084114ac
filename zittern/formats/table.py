"""THE TABLE of formats: what each is called and carries, how it is known, read, written.

Another format adds a module and a row.
"""

from __future__ import annotations

import importlib
import io
from collections.abc import Callable, Iterable
from dataclasses import dataclass
from pathlib import PurePath
from typing import IO, TYPE_CHECKING, Any, Literal

from zittern.core.errors import FormatError

if TYPE_CHECKING:
    from zittern.core.motion.evaluate import Motion
    from zittern.core.shot.shot import Shot
    from zittern.core.units import Array
    from zittern.formats.files import Sidecars
    from zittern.formats.paths import PathFile

__all__ = ["FORMATS", "PLACES", "Format", "format_named", "format_of", "reader_of", "written"]

Reader = Callable[["bytes", "Sidecars"], "PathFile"]
# Shot, frames, motion in parts, destination.
Writer = Callable[["Shot", "Array", "Iterable[Motion]", "IO[bytes]"], None]


Kind = Literal["path", "shot", "preset", "take", "cues"]


@dataclass(frozen=True, slots=True)
class Format:
    """A format.

    ending: of its files; kind: their content; carries: the parts of a shot that it includes, for display. read: a
    camera path from it; write: a shot to it; opens: a shot stored in it; marks: whether bytes with its ending are of
    it, where formats share one.
    """

    name: str
    ending: str
    kind: Kind
    title: str
    carries: str
    media_type: str
    read: Reader | None = None
    write: Writer | None = None
    opens: Callable[[bytes], Shot] | None = None
    marks: Callable[[bytes], bool] = lambda data: True


def _late(module: str, name: str) -> Callable[..., Any]:
    """Return a function of a format's module, which is imported when it is called.

    Most commands need none or one of them.
    """

    def call(*arguments: Any) -> Any:
        return getattr(importlib.import_module(f"zittern.formats.{module}"), name)(*arguments)

    return call


def _header(data: bytes) -> set[str]:
    """Names in the first line of a CSV."""
    first = data.removeprefix(b"\xef\xbb\xbf").partition(b"\n")[0][:_MOST_HEADER].decode("utf-8", "replace")
    return {name.strip() for name in first.lower().split(",")}


def _has_cues(data: bytes) -> bool:
    from zittern.formats import csv_path

    names = _header(data)
    return bool(names & {"name", "strength"}) and not names & set(csv_path.COLUMNS[5:])


def _has_take(data: bytes) -> bool:
    from zittern.formats import take_file

    names = _header(data)
    return bool(names & set(take_file.COLUMNS)) and "x_m" not in names


def _begins_with_time(data: bytes) -> bool:
    return b'"time_s"' in data[:_MOST_HEADER]


_MOST_HEADER = 4096
# Of rows with the same ending the first with a match is used; camera paths are last, and report errors for files that
# match none.
FORMATS: tuple[Format, ...] = (
    Format(
        "glb",
        ".glb",
        "path",
        "GLB: path, layers and lens as nested nodes, one binary file",
        "path, rig, layers, lens",
        "model/gltf-binary",
        _late("gltf_read", "read"),
        _late("gltf_write", "write_glb"),
    ),
    Format(
        "gltf",
        ".gltf",
        "path",
        "glTF: the same as readable JSON",
        "path, rig, layers, lens",
        "model/gltf+json",
        _late("gltf_read", "read"),
        _late("gltf_write", "write_gltf"),
    ),
    Format("cues", ".csv", "cues", "Cues as CSV: one row per cue", "cues", "text/csv", marks=_has_cues),
    Format(
        "take",
        ".csv",
        "take",
        "Recorded take as CSV: one row per sample",
        "what a layer plays",
        "text/csv",
        marks=_has_take,
    ),
    Format(
        "csv",
        ".csv",
        "path",
        "CSV: one row per frame, world pose and focal length",
        "path, lens",
        "text/csv",
        _late("csv_path", "read"),
        _late("csv_path", "write"),
    ),
    Format(
        "csv-shift",
        ".csv",
        "path",
        "CSV with shift: two additional columns for the film back",
        "path, lens, picture shift",
        "text/csv",
        _late("csv_path", "read"),
        _late("csv_path", "write_with_shifts"),
        marks=lambda data: False,
    ),
    Format(
        "csv-lens",
        ".csv",
        "path",
        "CSV with lens: additional columns for all values of the lens",
        "path, all values of the lens",
        "text/csv",
        _late("csv_path", "read"),
        _late("csv_path", "write_with_lens"),
        marks=lambda data: False,
    ),
    Format(
        "shot",
        ".shot.json",
        "shot",
        "Shot: the editable document itself",
        "everything",
        "application/json",
        None,
        _late("shot_json", "write"),
        _late("shot_json", "read"),
    ),
    Format("preset", ".preset.json", "preset", "Preset: a saved clip", "a clip, its dials and rig", "application/json"),
    Format(
        "take-json",
        ".json",
        "take",
        "Recorded take as JSON",
        "what a layer plays",
        "application/json",
        marks=_begins_with_time,
    ),
)
# Import command for each kind of content, for the message after an attempt elsewhere.
PLACES: dict[Kind, str] = {
    "path": "import it as the move of a shot, or as a new shot",
    "shot": "open it on the projects page",
    "preset": "import it in the preset sheet",
    "take": "play it on a layer: source “take”, on the axis board",
    "cues": "import it in the cue list",
}


def format_of(filename: str, data: bytes | None = None) -> Format:
    """Return the format of a file by its ending, and for shared endings by its first bytes.

    Without its bytes what a shot is written to counts. Raises FormatError.
    """
    name = PurePath(filename).name.lower()
    fitting = [each for each in FORMATS if name.endswith(each.ending)]
    for each in fitting:
        if each.write is not None if data is None else each.marks(data):
            return each
    if fitting:
        return fitting[-1]
    raise FormatError(
        f"unknown file ending {PurePath(name).suffix or name!r}; known are "
        f"{', '.join(dict.fromkeys(each.ending for each in FORMATS))}"
    )


def format_named(name: str) -> Format:
    """Return a format by its short name. Raises FormatError."""
    for each in FORMATS:
        if each.name == name:
            return each
    raise FormatError(f"unknown format {name!r}; known are {', '.join(each.name for each in FORMATS)}", "format")


def written(name: str, shot: Shot, motion: Motion) -> bytes:
    """Return a shot's motion in a format, in memory. Raises FormatError."""
    write = format_named(name).write
    if write is None:
        raise FormatError(f"the format {name!r} is only read", "format")
    file = io.BytesIO()
    write(shot, motion.frames, [motion], file)
    return file.getvalue()


def reader_of(filename: str, data: bytes | None = None) -> Reader:
    """Return the reader for a camera path in a file.

    Raises FormatError, which names the right place for a file of another kind.
    """
    found = format_of(filename, data)
    if found.read is None:
        known = ", ".join(each.ending for each in FORMATS if each.read)
        raise FormatError(
            f"camera paths are read from {known}; {PurePath(filename).name[:80]} holds a {found.kind}: "
            f"{PLACES[found.kind]}"
        )
    return found.read
