"""THE TABLE of formats: what each is called and carries, how it is known, read, written.

Another format adds a module and a row.
"""

from __future__ import annotations

import importlib
import io
from collections.abc import Callable
from dataclasses import dataclass
from pathlib import PurePath
from typing import TYPE_CHECKING, Any, Literal

from zittern.core.errors import FormatError

if TYPE_CHECKING:
    from zittern.core.motion.evaluate import Motion
    from zittern.core.shot.shot import Shot
    from zittern.formats.files import Sidecars
    from zittern.formats.paths import PathFile

__all__ = [
    "FORMATS", "MOVIES", "PLACES", "Format", "format_named", "format_of", "read_as", "reader_of", "write_as", "written",
]  # fmt: skip

PathReader = Callable[["bytes", "Sidecars"], "PathFile"]
Kind = Literal["path", "shot", "preset", "take", "cues", "picture", "set", "cut", "movie"]


@dataclass(frozen=True, slots=True)
class Format:
    """A format.

    ending: of its files; kind: their content; carries: the parts of a shot that it includes, for display. marks:
    whether bytes with its ending are of it, where formats share one. has_nodes: nested poses; has_curves: cubic keys.
    has_frame_numbers: not only times. read, write: by kind
    path: (data, sidecars) -> PathFile; (shot, delivery, motion in parts, file) -> what reduced keys lose, or None
    shot: (data) -> Shot; as a path
    preset: (data) -> Preset; (preset) -> text
    take: (data, name) -> Recording; (times (N,), (N,) by column) -> text
    cues: (data, shot) -> cues; (shot) -> text
    picture: (data, name, three files to write) -> properties of the picture
    set: (data) -> its objects
    cut: (data, shot, names, handles) -> command
    movie: an encoder of frames
    """

    name: str
    ending: str
    kind: Kind
    title: str
    carries: str
    media_type: str
    read: Callable[..., Any] | None = None
    write: Callable[..., Any] | None = None
    marks: Callable[[bytes], bool] = lambda data: True

    has_nodes: bool = False
    has_curves: bool = False
    has_frame_numbers: bool = False

    @property
    def exports(self) -> bool:
        """Return whether the motion of a shot can be written to it."""
        return self.kind in ("path", "shot") and self.write is not None


def _late(module: str, name: str) -> Callable[..., Any]:
    """Return a function of a format's module, which is imported when it is called.

    Most commands need none or one of them.
    """

    def call(*arguments: Any) -> Any:
        full = module if "." in module else f"zittern.formats.{module}"
        return getattr(importlib.import_module(full), name)(*arguments)

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
_READ_PICTURE = _late("picture_file", "read_picture")
_ENCODER = _late("movie_file", "Encoder")
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
        has_nodes=True,
        has_curves=True,
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
        has_nodes=True,
        has_curves=True,
    ),
    Format(
        "usda",
        ".usda",
        "path",
        "USDA: OpenUSD as text, with rig, layers and lens as nested prims",
        "path, rig, layers, lens",
        "model/vnd.usda",
        _late("usd_read", "read"),
        _late("usd_write", "write_usda"),
        has_nodes=True,
        has_frame_numbers=True,
    ),
    Format(
        "usdc",
        ".usdc",
        "path",
        "USDC: OpenUSD in its binary form",
        "path, rig, layers, lens",
        "model/vnd.usd",
        _late("usd_read", "read"),
        _late("usd_write", "write_usdc"),
        has_nodes=True,
        has_frame_numbers=True,
    ),
    Format(
        "usdz",
        ".usdz",
        "path",
        "USDZ: OpenUSD in a package",
        "path, rig, layers, lens",
        "model/vnd.usdz+zip",
        _late("usd_read", "read"),
        _late("usd_write", "write_usdz"),
        has_nodes=True,
        has_frame_numbers=True,
    ),
    Format(
        "cues",
        ".csv",
        "cues",
        "Cues as CSV: one row per cue",
        "cues",
        "text/csv",
        _late("cue_csv", "read_cues"),
        _late("cue_csv", "write_cues"),
        marks=_has_cues,
    ),
    Format(
        "take",
        ".csv",
        "take",
        "Recorded take as CSV: one row per sample",
        "what a layer plays",
        "text/csv",
        _late("take_file", "read_take"),
        _late("take_file", "write_take"),
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
        has_frame_numbers=True,
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
        has_frame_numbers=True,
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
        has_frame_numbers=True,
        marks=lambda data: False,
    ),
    Format(
        "shot",
        ".shot.json",
        "shot",
        "Shot: the editable document itself",
        "everything",
        "application/json",
        _late("shot_json", "read"),
        _late("shot_json", "write"),
    ),
    Format(
        "preset",
        ".preset.json",
        "preset",
        "Preset: a saved clip",
        "a clip, its dials and rig",
        "application/json",
        _late("zittern.core.presets.files", "read_preset"),
        _late("zittern.core.presets.files", "write_preset"),
    ),
    Format(
        "take-json",
        ".json",
        "take",
        "Recorded take as JSON",
        "what a layer plays",
        "application/json",
        _late("take_file", "read_take"),
        marks=_begins_with_time,
    ),
    Format(
        "set",
        ".glb",
        "set",
        "Set: a scene as GLB",
        "objects and their animation",
        "model/gltf-binary",
        _late("set_file", "check_set"),
        marks=lambda data: False,
    ),
    Format(
        "cut",
        ".otio",
        "cut",
        "Cut list: OpenTimelineIO",
        "ranges of shots",
        "application/json",
        _late("cut_list", "conforming"),
    ),
    *(
        Format(f"picture{ending}", ending, "picture", f"Picture: {title}", "a plate", media_type, _READ_PICTURE)
        for ending, title, media_type in (
            (".png", "PNG", "image/png"),
            (".jpg", "JPEG", "image/jpeg"),
            (".jpeg", "JPEG", "image/jpeg"),
            (".webp", "WebP", "image/webp"),
        )
    ),
    *(
        Format(name, ending, "movie", title, "frames", media_type, write=_ENCODER)
        for name, ending, title, media_type in (
            ("mp4", ".mp4", "MP4: H.264, plays everywhere", "video/mp4"),
            ("webm", ".webm", "WebM: VP9", "video/webm"),
            ("png", ".zip", "PNG sequence in a zip", "application/zip"),
        )
    ),
)
MOVIES: dict[str, Format] = {each.name: each for each in FORMATS if each.kind == "movie"}
# Import command for each kind of content, for the message after an attempt elsewhere.
PLACES: dict[Kind, str] = {
    "path": "import it as the move of a shot, or as a new shot",
    "shot": "open it on the projects page",
    "preset": "import it in the preset sheet",
    "take": "play it on a layer: source “take”, on the axis board",
    "cues": "import it in the cue list",
    "picture": "hang it as a plate in the Set view",
    "set": "add it with “Add a set”",
    "cut": "conform a shot to it",
    "movie": "movies are only written",
}


def format_of(filename: str, data: bytes | None = None) -> Format:
    """Return the format of a file by its ending, and for shared endings by its first bytes.

    Without its bytes what a shot is written to counts. Raises FormatError.
    """
    name = PurePath(filename).name.lower()
    known = [each for each in FORMATS if data is not None or each.exports]
    fitting = [each for each in known if name.endswith(each.ending)]
    for each in fitting:
        if data is None or each.marks(data):
            return each
    if fitting:
        return fitting[-1]
    raise FormatError(
        f"unknown file ending {PurePath(name).suffix or name!r}; known are "
        f"{', '.join(dict.fromkeys(each.ending for each in known))}"
    )


def format_named(name: str) -> Format:
    """Return a format by its short name. Raises FormatError."""
    for each in FORMATS:
        if each.name == name:
            return each
    raise FormatError(f"unknown format {name!r}; known are {', '.join(each.name for each in FORMATS)}", "format")


def written(name: str, shot: Shot, motion: Motion) -> bytes:
    """Return a shot's motion in a format, in memory. Raises FormatError."""
    found = format_named(name)
    if found.write is None or not found.exports:
        raise FormatError(f"no motion is written to the format {name!r}", "format")
    from zittern.formats.delivery import Delivery

    file = io.BytesIO()
    found.write(shot, Delivery(), [motion], file)
    return file.getvalue()


def read_as(name: str, data: bytes, *arguments: Any) -> Any:
    """Return what a file of a format holds; arguments as for its kind. Raises FormatError."""
    read = format_named(name).read
    if read is None:
        raise FormatError(f"the format {name!r} is only written", "format")
    return read(data, *arguments)


def write_as(name: str, *arguments: Any) -> Any:
    """Return the text of a format, or its encoder; arguments as for its kind. Raises FormatError."""
    write = format_named(name).write
    if write is None:
        raise FormatError(f"the format {name!r} is only read", "format")
    return write(*arguments)


def reader_of(filename: str, data: bytes | None = None) -> PathReader:
    """Return the reader for a camera path in a file.

    Raises FormatError, which names the right place for a file of another kind.
    """
    found = format_of(filename, data)
    if found.kind != "path" or found.read is None:
        known = ", ".join(dict.fromkeys(each.ending for each in FORMATS if each.kind == "path" and each.read))
        name = PurePath(filename).name[:80]
        other = "is only written" if found.kind == "path" else f"holds a {found.kind}: {PLACES[found.kind]}"
        raise FormatError(f"camera paths are read from {known}; {name} {other}")
    return found.read
