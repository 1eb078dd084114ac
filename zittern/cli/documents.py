"""Inputs of commands: settings, shots by slug, id or file; files that are written atomically."""

from __future__ import annotations

import errno
import os
import sys
from collections.abc import Iterable
from contextlib import closing
from pathlib import Path
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from zittern.core.shot.shot import Shot
    from zittern.formats.delivery import Delivery
    from zittern.formats.table import Format
    from zittern.settings import Settings

__all__ = [
    "check_writable", "document_of", "existing_data", "folder_of_sets", "keep_private", "output_mode",
    "settings_of", "tell", "warn_of_open_folder", "write_shot_to",
]  # fmt: skip


class _Umask:
    """The file permissions that the user of this process masks."""

    users = 0o022


def keep_private() -> None:
    """Create folders as 0700 and files as 0600 from now on, but for the output files of commands."""
    _Umask.users = os.umask(0o077)


def warn_of_open_folder(settings: Settings) -> None:
    """Print a warning when other users of this machine can read an existing data folder; its mode stays."""
    try:
        folder = settings.data.expanduser()
        mode = folder.stat().st_mode & 0o777
    except (OSError, RuntimeError, ValueError):
        return  # it is missing, or opening it reports the error
    if mode & 0o077:
        tell([f"other users of this machine can read {folder} (mode {mode:o}); `chmod 700` on it prevents that"])


def tell(notices: Iterable[str]) -> None:
    """Print notices to standard error."""
    for notice in notices:
        print(f"note: {notice}", file=sys.stderr)


def settings_of(port: int | None, data: Path | None) -> Settings:
    """Return the settings with options of the command line. Raises BadInput."""
    from pydantic import ValidationError

    from zittern.core.errors import BadInput, DocumentError
    from zittern.settings import Settings

    given = {name: value for name, value in (("port", port), ("data", data)) if value is not None}
    try:
        return Settings(**given)  # type: ignore[arg-type]
    except ValidationError as error:
        fault = DocumentError.of(error)
        raise BadInput(
            fault.message, f"--{fault.where}" if fault.where in given else f"ZITTERN_{fault.where.upper()}"
        ) from error


def existing_data(data: Path | None) -> Path:
    """Return the data folder for a command that only reads or changes what is there.

    Raises BadInput for a missing one.
    """
    from zittern.core.errors import BadInput

    settings = settings_of(None, data)
    try:
        settings.data.expanduser().lstat()
    except FileNotFoundError:
        raise BadInput(
            f"expected a data folder, found none at {settings.data}; `zittern demo` makes one", "--data"
        ) from None
    except (OSError, RuntimeError, ValueError):
        pass  # the next step reports the error
    return settings.data_dir


def folder_of_sets(data: Path | None) -> Path:
    """Return the folder of set files; a default folder may be missing. Raises BadInput."""
    return settings_of(None, None).data.expanduser() if data is None else existing_data(data)


def document_of(key: str, data: Path | None, variant: str | None = None) -> Shot:
    """Return the shot with a slug or id, or in a file. Raises BadInput, NotFound."""
    from zittern.core.shot.through_variant import as_stored, through_variant
    from zittern.core.shot.upgrades import read_shot
    from zittern.formats.files import read_bytes
    from zittern.store.library import Library

    path = Path(key)
    if key.endswith(".json") or path.is_file():
        shot = as_stored(read_shot(read_bytes(path)))
        return shot if variant is None else through_variant(shot, variant)
    with closing(Library(existing_data(data))) as library:
        return library.state(key, variant).document


def write_shot_to(path: Path, format_: Format, shot: Shot, delivery: Delivery | None = None) -> None:
    """Bake a shot into a file; on failure the file is unchanged. Prints the loss of reduced keys."""
    from zittern.formats.delivery import Delivery, deliver

    loss = deliver(path, format_, shot, delivery or Delivery(), output_mode())
    if loss is not None:
        print(loss.says)


def output_mode() -> int:
    """Return the file permissions of output files: those that the user of this process does not mask."""
    return 0o666 & ~_Umask.users


def check_writable(path: Path) -> None:
    """Raise BadInput for a file that cannot be written, before hours of work for it."""
    from zittern.core.errors import BadInput

    folder = path.parent
    if not folder.is_dir():
        raise BadInput(f"cannot write {path}: there is no folder {folder}", "-o")
    if path.is_dir() or not os.access(path if path.exists() else folder, os.W_OK):
        reason = errno.EISDIR if path.is_dir() else errno.EACCES
        raise BadInput(f"cannot write {path}: {os.strerror(reason)}", "-o")
