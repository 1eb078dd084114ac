"""What commands work on: settings, shots by slug, id or file; files that are written whole."""

from __future__ import annotations

import errno
import os
import sys
from collections.abc import Callable, Iterable
from contextlib import closing
from pathlib import Path
from typing import IO, TYPE_CHECKING

from zittern.settings import Settings

if TYPE_CHECKING:
    from zittern.core.shot.shot import Shot
    from zittern.formats.table import Format

__all__ = ["document_of", "settings_of", "tell", "write_shot_to", "write_whole"]


def tell(notices: Iterable[str]) -> None:
    for notice in notices:
        print(f"note: {notice}", file=sys.stderr)


def settings_of(port: int | None, data: Path | None) -> Settings:
    from pydantic import ValidationError

    from zittern.core.errors import BadInput, DocumentError

    given = {name: value for name, value in (("port", port), ("data", data)) if value is not None}
    try:
        return Settings(**given)  # type: ignore[arg-type]
    except ValidationError as error:
        fault = DocumentError.of(error)
        raise BadInput(
            fault.message, f"--{fault.where}" if fault.where in given else f"ZITTERN_{fault.where.upper()}"
        ) from error


def document_of(key: str, data: Path | None, variant: str | None = None) -> Shot:
    from zittern.core.shot.seen import kept, seen
    from zittern.core.shot.upgrades import read_shot
    from zittern.formats.files import read_bytes
    from zittern.store.library import Library

    path = Path(key)
    if key.endswith(".json") or path.is_file():
        shot = kept(read_shot(read_bytes(path)))
        return shot if variant is None else seen(shot, variant)
    with closing(Library(settings_of(None, data).data_dir)) as library:
        return library.state(key, variant).document


def write_shot_to(path: Path, format_: Format, shot: Shot, step: float = 1.0) -> None:
    """Bakes a shot into a file, part by part; the file is whole or as it was."""
    from zittern.core.errors import BadInput
    from zittern.core.motion.evaluate import evaluate_in_parts
    from zittern.core.timebase import frame_grid

    write = format_.write
    if write is None:
        raise BadInput(f"{path.name}: this format is only read", "-o")
    frames = frame_grid(shot.first_frame, shot.last_frame, step)
    write_whole(path, lambda file: write(shot, frames, evaluate_in_parts(shot, frames), file))


def write_whole(path: Path, write: Callable[[IO[bytes]], object]) -> None:
    """Writes a file that is whole or as it was; a pipe or a device takes what comes. Raises BadInput."""
    from zittern.core.errors import BadInput

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
            part.replace(path)
        finally:
            part.unlink(missing_ok=True)
    except OSError as error:
        raise BadInput(f"cannot write {path}: {error.strerror}") from error
