"""Bytes from disk, with limits. Sidecar files must be in the file's own folder."""

from __future__ import annotations

import errno
import os
from collections.abc import Callable
from pathlib import Path
from tempfile import SpooledTemporaryFile
from typing import IO
from urllib.parse import unquote

from zittern.core.errors import BadInput, FormatError

__all__ = ["MOST_FILE_BYTES", "Sidecars", "no_sidecars", "read_bytes", "sidecars_of", "spool_beside", "write_whole"]

MOST_FILE_BYTES = 128 * 2**20
_SPOOLED_BYTES = 8 * 2**20

Sidecars = Callable[[str, str], bytes]


def read_bytes(path: Path) -> bytes:
    """Return a file's content. Raises FormatError when it is missing, a folder, unreadable or too large."""
    try:
        size = path.stat().st_size
        if size > MOST_FILE_BYTES:
            raise FormatError(f"{path.name} has {size / 2**20:.0f} MB; up to {MOST_FILE_BYTES // 2**20} MB can be read")
        return path.read_bytes()
    except OSError as error:
        raise FormatError(f"cannot read {path}: {error.strerror}") from error


def write_whole(path: Path, write: Callable[[IO[bytes]], object], mode: int | None = None) -> None:
    """Write a file completely or leave it unchanged; pipes and devices are written directly. Raises BadInput.

    mode: permissions of a new file; by default those of the process.
    """
    part = path.with_name(f".{path.name}.{os.getpid()}.part")
    try:
        if path.is_dir():
            raise IsADirectoryError(errno.EISDIR, os.strerror(errno.EISDIR))
        if path.exists() and not path.is_file():
            with path.open("wb") as file:
                write(file)
            return
        try:
            with part.open("wb") as file:
                write(file)
            if mode is not None:
                part.chmod(mode)
            part.replace(path)
        finally:
            part.unlink(missing_ok=True)
    except OSError as error:
        raise BadInput(f"cannot write {path}: {error.strerror}") from error


def spool_beside(file: IO[bytes]) -> IO[bytes]:
    """Return an unnamed temporary file on the same disk as another; it is deleted when closed.

    A small one stays in memory.
    """
    name = getattr(file, "name", None)
    return SpooledTemporaryFile(_SPOOLED_BYTES, dir=str(Path(name).parent) if isinstance(name, str) else None)


def no_sidecars(uri: str, where: str) -> bytes:
    """For uploads: sidecar files are not available."""
    raise FormatError(f"the data is in another file ({uri[:80]}); save as GLB, or as glTF with embedded data", where)


def sidecars_of(path: Path) -> Sidecars:
    """Read files that a file names, from its own folder only."""
    folder = path.resolve().parent

    def read(uri: str, where: str) -> bytes:
        name = unquote(uri)
        if "://" in name or name.startswith(("//", "/", "\\")) or ":" in name.split("/")[0] or "\0" in name:
            raise FormatError(f"only files in the same folder are read, got {uri[:80]!r}", where)
        target = (folder / name).resolve()
        if not target.is_relative_to(folder):
            raise FormatError(f"{uri[:80]!r} leaves the file's folder", where)
        try:
            return read_bytes(target)
        except FormatError as error:
            raise FormatError(error.message, where) from error

    return read
