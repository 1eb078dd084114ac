"""A project as one file (.zittern): a zip of its shots, and the presets, sets and pictures that they use.

`project.json` names the parts. Everything is read and checked before anything is stored. Nothing is overwritten: the
project, its shots and its presets are new ones.
"""

from __future__ import annotations

import io
import json
import re
import stat
import struct
import zipfile
import zlib
from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from dataclasses import dataclass, field
from pathlib import Path
from typing import IO, Annotated, Literal

from pydantic import Field, StringConstraints

from zittern import __version__
from zittern.core.documents.doc import Doc, Label
from zittern.core.errors import BadInput, DocumentError, FormatError, NotFound, faults_as
from zittern.core.presets.files import read_preset, write_preset
from zittern.core.presets.preset import Preset
from zittern.core.shot.ids import free_name
from zittern.core.shot.shot import Shot
from zittern.core.shot.upgrades import read_shot, write_shot
from zittern.formats.set_file import check_set
from zittern.store.library import Library
from zittern.store.naming import slug_of
from zittern.store.pictures import SHIPPED as SHIPPED_PICTURES
from zittern.store.pictures import keep_picture, picture_file, pictures_in
from zittern.store.sets import SHIPPED as SHIPPED_SETS
from zittern.store.sets import add_set, set_file, set_title

__all__ = ["ENDING", "ProjectIndex", "Unpacked", "pack", "read_project", "unpack"]

ENDING = ".zittern"
_INDEX = "project.json"
_Slug = Annotated[str, StringConstraints(pattern=r"^[a-z0-9][a-z0-9-]{0,79}$")]
# Leaves room for a number.
_NAME_LENGTH = 110
_MOST_SHOTS, _MOST_ENTRIES = 5000, 20_000
_MB = 2**20
# Largest size of a part once unpacked, by its folder, and of all together.
_SIZES = {"": 4 * _MB, "shots": 32 * _MB, "presets": 4 * _MB, "sets": 128 * _MB, "pictures": 128 * _MB}
_MOST_BYTES = 2048 * _MB
_MOST_DIRECTORY_BYTES = 4 * _MB
_END = struct.Struct("<4s4H2LH")
_MOST_COMMENT, _LOCATOR_BYTES = 2**16, 20
_PICTURE_ENDINGS = (".webp", ".small.webp", ".zip")
_WEBP = re.compile(rb"RIFF....WEBP", re.DOTALL)
# Origins of clips and layers that were placed from a preset of the user's own.
_OWN_PRESET = re.compile(r'"preset":"(own-[a-z0-9-]{1,60})"')


class PackedShot(Doc):
    """A shot in a project file: its slug and name there."""

    slug: _Slug
    name: Label


class ProjectIndex(Doc):
    """The parts of a project file."""

    schema_name: Literal["zittern.project"] = "zittern.project"
    schema_version: Literal[1] = 1
    product: Annotated[str, StringConstraints(max_length=40)] = __version__
    name: Label
    shots: Annotated[tuple[PackedShot, ...], Field(max_length=_MOST_SHOTS)]
    presets: Annotated[tuple[_Slug, ...], Field(max_length=2000)] = ()
    sets: Annotated[tuple[_Slug, ...], Field(max_length=1000)] = ()
    pictures: Annotated[
        tuple[Annotated[str, StringConstraints(pattern=r"^[0-9a-f]{64}$")], ...], Field(max_length=5000)
    ] = ()


@dataclass(frozen=True, slots=True)
class Unpacked:
    """The new project and its shots, by their new slugs."""

    project: str
    shots: tuple[str, ...]


@dataclass(slots=True)
class _Parts:
    """Sets, pictures and custom presets that some shots use."""

    sets: set[str] = field(default_factory=set)
    pictures: set[str] = field(default_factory=set)
    presets: set[str] = field(default_factory=set)

    def add(self, text: str, set_id: str | None) -> None:
        self.pictures |= pictures_in(text.encode())
        self.presets.update(_OWN_PRESET.findall(text))
        if set_id is not None:
            self.sets.add(set_id)


def pack(library: Library, project: str, file: IO[bytes]) -> tuple[str, ...]:
    """Write a project to a file; return notices of parts that were left out. Raises NotFound."""
    found = library.project(project)
    parts, shots = _Parts(), list[PackedShot]()
    notices: list[str] = []
    with zipfile.ZipFile(file, "w", zipfile.ZIP_DEFLATED, compresslevel=6) as archive:
        for entry in library.shots(project):
            try:
                document = library.state(entry.id).document
            except DocumentError as error:
                notices.append(f"{error.message}; it was left out")
                continue
            text = write_shot(document)
            archive.writestr(f"shots/{entry.slug}.shot.json", text)
            parts.add(text, document.set_id)
            shots.append(PackedShot(slug=entry.slug, name=document.name))
        presets = []
        for key in sorted(parts.presets):
            try:
                preset = library.presets.get(key).preset
            except NotFound:
                continue  # deleted since; its clips do not change
            if preset is not None:
                archive.writestr(f"presets/{key}.preset.json", write_preset(preset))
                presets.append(key)
        sets = [each for each in sorted(parts.sets) if _packed_set(archive, library.data_dir, each, notices)]
        pictures = [
            each for each in sorted(parts.pictures) if _packed_picture(archive, library.data_dir, each, notices)
        ]
        index = ProjectIndex(
            name=found.name, shots=tuple(shots), presets=tuple(presets), sets=tuple(sets), pictures=tuple(pictures)
        )
        archive.writestr(_INDEX, json.dumps(index.model_dump(mode="json"), indent=1, ensure_ascii=False))
    return tuple(notices)


def _packed_set(archive: zipfile.ZipFile, data_dir: Path, set_id: str, notices: list[str]) -> bool:
    try:
        path = set_file(data_dir, set_id)
    except NotFound:
        notices.append(f"the set {set_id} is not here and was left out")
        return False
    if path.parent == SHIPPED_SETS:
        return False
    archive.write(path, f"sets/{set_id}.glb", zipfile.ZIP_STORED)
    return True


def _packed_picture(archive: zipfile.ZipFile, data_dir: Path, digest: str, notices: list[str]) -> bool:
    try:
        path = picture_file(data_dir, digest)
    except NotFound:
        notices.append(f"the picture {digest[:12]} is not here and was left out")
        return False
    if path.parent == SHIPPED_PICTURES:
        return False
    for ending in _PICTURE_ENDINGS:
        part = path.with_name(f"{digest}{ending}")
        if part.is_file():
            archive.write(part, f"pictures/{part.name}", zipfile.ZIP_STORED)
    return True


def unpack(library: Library, file: IO[bytes], name: str | None = None) -> Unpacked:
    """Store the project of a file as a new one. Raises FormatError for another kind of file, with the place.

    name: of the new project; by default that of the packed one.
    """
    with _opened(file) as archive:
        index, shots, presets = _checked(archive)
        keys = {key: _kept_preset(library, preset) for key, preset in presets.items()}
        sets = {set_id: _kept_set(library, archive, set_id) for set_id in index.sets}
        for digest in index.pictures:
            _keep_picture(library, archive, digest)
    taken = {each.name for each in library.projects()}
    project = library.add_project(free_name((name or index.name)[:_NAME_LENGTH], taken, " "))
    added: list[str] = []
    try:
        for slug, shot in shots.items():
            document = _renamed(shot, keys, sets)
            added.append(library.add_shot(project.slug, document, f"Unpack “{index.name}”"[:200], slug).slug)
    except BaseException:
        for each in added:
            library.remove_shot(each)
        library.remove_project(project.slug)
        raise
    return Unpacked(project.slug, tuple(added))


def read_project(file: IO[bytes]) -> tuple[ProjectIndex, dict[str, Shot], dict[str, Preset]]:
    """Return the parts of a project file, shots and presets by their names there; all of it is checked.

    Raises FormatError.
    """
    with _opened(file) as archive:
        return _checked(archive)


def _checked(archive: _Archive) -> tuple[ProjectIndex, dict[str, Shot], dict[str, Preset]]:
    index = archive.index()
    shots = {each.slug: archive.shot(each.slug) for each in index.shots}
    presets = {key: archive.preset(key) for key in index.presets}
    for set_id in index.sets:
        with _in_part(f"sets/{set_id}.glb"):
            check_set(archive.read(f"sets/{set_id}.glb"))
    for digest in index.pictures:
        archive.check_picture(digest)
    return index, shots, presets


def _kept_preset(library: Library, preset: Preset) -> str:
    """Return the key of a preset: of an equal one that is there, or of a new one."""
    for kept in library.presets.all().presets:
        if kept.preset == preset:
            return kept.key
    return library.presets.add(preset, "Unpack", rename=True).key


def _kept_set(library: Library, archive: _Archive, set_id: str) -> str:
    wanted = slug_of(set_title(set_id))
    return add_set(library.data_dir, library.workspace, wanted, archive.read(f"sets/{set_id}.glb"))


def _keep_picture(library: Library, archive: _Archive, digest: str) -> None:
    try:
        picture_file(library.data_dir, digest)
    except NotFound:
        paths = []
        for ending in _PICTURE_ENDINGS:
            paths.append(library.workspace.new_path(ending))
            data = archive.found(f"pictures/{digest}{ending}")
            if data is not None:
                paths[-1].write_bytes(data)
        shown, small, tiles = paths
        keep_picture(library.data_dir, digest, shown, small, tiles)


def _renamed(shot: Shot, presets: Mapping[str, str], sets: Mapping[str, str]) -> Shot:
    """Return a shot whose presets and set have the names that they have here."""
    set_id = None if shot.set_id is None else sets.get(shot.set_id, shot.set_id)
    if set_id != shot.set_id:
        shot = shot.replace(set_id=set_id)
    if all(key == new for key, new in presets.items()):
        return shot
    text = _OWN_PRESET.sub(lambda found: f'"preset":"{presets.get(found[1], found[1])}"', write_shot(shot))
    return read_shot(text)


@contextmanager
def _in_part(name: str) -> Iterator[None]:
    """Convert faults of a part to errors that name it."""
    try:
        with faults_as(FormatError):
            yield
    except BadInput as error:
        raise FormatError(error.message, f"{name} {error.where}".rstrip() if error.where != name else name) from error


class _Archive:
    """A zip whose directory was checked. Parts are read whole, each up to the limit of its folder."""

    def __init__(self, archive: zipfile.ZipFile) -> None:
        self._archive = archive
        self._infos = {info.filename: info for info in archive.infolist()}

    def index(self) -> ProjectIndex:
        """Return the names of the parts."""
        with _in_part(_INDEX):
            return ProjectIndex.model_validate_json(self.read(_INDEX))

    def shot(self, slug: str) -> Shot:
        name = f"shots/{slug}.shot.json"
        with _in_part(name):
            return read_shot(self.read(name))

    def preset(self, key: str) -> Preset:
        name = f"presets/{key}.preset.json"
        with _in_part(name):
            return read_preset(self.read(name))

    def check_picture(self, digest: str) -> None:
        """Raise FormatError for a picture that is missing or of another format."""
        for ending in (".webp", ".small.webp"):
            name = f"pictures/{digest}{ending}"
            if not _WEBP.match(self.read(name)):
                raise FormatError("expected a WebP picture", name)
        tiles = self.found(f"pictures/{digest}.zip")
        if tiles is not None:
            with _in_part(f"pictures/{digest}.zip"):
                _unzipped(io.BytesIO(tiles), _TILE, _SIZES["pictures"]).close()

    def found(self, name: str) -> bytes | None:
        """Return a part, if it is there."""
        return self.read(name) if name in self._infos else None

    def read(self, name: str) -> bytes:
        """Return a part. Raises FormatError for one that is missing, damaged or too large."""
        if name not in self._infos:
            raise FormatError("the file names a part that is not in it", name)
        most = _SIZES[name.rpartition("/")[0]]
        try:
            with self._archive.open(self._infos[name]) as part:
                data = part.read(most + 1)
                if len(data) > most:
                    raise FormatError(f"a part of this kind has up to {most // _MB} MB", name)
                # The check sum is compared at the end.
                part.read(1)
        except (zipfile.BadZipFile, zlib.error, EOFError, struct.error, ValueError, OSError) as error:
            raise FormatError(f"this part is damaged ({error})", name) from error
        return data


@contextmanager
def _opened(file: IO[bytes]) -> Iterator[_Archive]:
    """Open a project file whose directory is small and names only parts of a project. Raises FormatError."""
    with _unzipped(file, _NAME, _MOST_BYTES) as archive:
        yield _Archive(archive)


def _unzipped(file: IO[bytes], names: re.Pattern[str], most_bytes: int) -> zipfile.ZipFile:
    """Return a zip with few parts, all with expected names, and up to a size together. Raises FormatError."""
    _check_end(file)
    try:
        archive = zipfile.ZipFile(file)
    except (zipfile.BadZipFile, NotImplementedError, struct.error, ValueError) as error:
        raise FormatError(f"this is no zip: {error}") from error
    _check_names(archive.infolist(), names, most_bytes)
    return archive


def _check_end(file: IO[bytes]) -> None:
    """Raise FormatError for a directory that is too large, before it is read."""
    size = file.seek(0, 2)
    file.seek(max(0, size - _MOST_COMMENT - _END.size))
    tail = file.read()
    at = tail.rfind(b"PK\x05\x06")
    if at < 0 or len(tail) - at < _END.size:
        raise FormatError("this is no zip")
    _, _, _, _, count, directory_bytes, _, _ = _END.unpack_from(tail, at)
    # Another record before this one would replace its numbers: files of more than 4 GB have it.
    is_large = tail[max(0, at - _LOCATOR_BYTES) : at].startswith(b"PK\x06\x07")
    if is_large or count > _MOST_ENTRIES or directory_bytes > _MOST_DIRECTORY_BYTES:
        raise FormatError(f"a zip has up to {_MOST_ENTRIES:,} parts here")


_NAME = re.compile(
    r"project\.json|shots/[a-z0-9-]{1,80}\.shot\.json|presets/[a-z0-9-]{1,80}\.preset\.json|"
    r"sets/[a-z0-9-]{1,80}\.glb|pictures/[0-9a-f]{64}(?:\.webp|\.small\.webp|\.zip)"
)


# Tiles of a large picture, and their index.
_TILE = re.compile(r"index\.json|\d{1,3}/\d{1,5}/\d{1,5}")


def _check_names(infos: list[zipfile.ZipInfo], names: re.Pattern[str], most_bytes: int) -> None:
    seen: set[str] = set()
    for info in infos:
        name = info.filename
        if not names.fullmatch(name):
            raise FormatError(f"expected parts of a project, got {name[:80]!r}; this is another kind of file")
        if name in seen:
            raise FormatError("this part is there twice", name)
        if info.flag_bits & 1 or stat.S_ISLNK(info.external_attr >> 16):
            raise FormatError("expected a plain part, got an encrypted one or a link", name)
        seen.add(name)
    total = sum(info.file_size for info in infos)
    if total > most_bytes:
        raise FormatError(f"the parts have up to {most_bytes // _MB:,} MB together, these {total // _MB:,} MB")
