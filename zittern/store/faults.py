"""Messages for errors of the disk and of SQLite, with advice."""

from __future__ import annotations

import errno
import sqlite3
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from sqlalchemy.exc import DBAPIError

from zittern.core.errors import StoreBusy, StoreError, StoreFull

__all__ = ["disk_fault", "faults_of"]

_FULL = "the disk is full; nothing was changed. Make room in {folder} and try again"
_DISK = {
    errno.ENOSPC: (StoreFull, _FULL),
    errno.EDQUOT: (StoreFull, _FULL),
    errno.EROFS: (StoreError, "{folder} is read-only; choose another folder with --data, or make it writable"),
    errno.EACCES: (
        StoreError,
        "{folder} cannot be written; choose another folder with --data, or change its permissions",
    ),
    errno.EPERM: (
        StoreError,
        "{folder} cannot be written; choose another folder with --data, or change its permissions",
    ),
    errno.ENOTDIR: (StoreError, "{folder} is below a file, or is one; choose another folder with --data"),
    errno.EEXIST: (StoreError, "{folder} is below a file, or is one; choose another folder with --data"),
    errno.ENAMETOOLONG: (StoreError, "the path of the data folder is too long; choose another with --data"),
}
# By SQLite's primary result code (https://sqlite.org/rescode.html).
_DATABASE: dict[int, tuple[type[StoreError], str]] = {
    sqlite3.SQLITE_FULL: (StoreFull, _FULL),
    sqlite3.SQLITE_BUSY: (
        StoreBusy,
        "another program keeps the database in {folder} locked; nothing was changed. Close it, or try again in a "
        "moment",
    ),
    sqlite3.SQLITE_LOCKED: (
        StoreBusy,
        "another program keeps the database in {folder} locked; nothing was changed. Close it, or try again in a "
        "moment",
    ),
    sqlite3.SQLITE_READONLY: (
        StoreError,
        "the database in {folder} is read-only; choose another folder with --data, or make it writable",
    ),
    sqlite3.SQLITE_PERM: (
        StoreError,
        "the database in {folder} cannot be written; choose another folder with --data, or change its permissions",
    ),
    sqlite3.SQLITE_CANTOPEN: (
        StoreError,
        "the database in {folder} cannot be opened; is the folder writable? Another can be chosen with --data",
    ),
    sqlite3.SQLITE_NOTADB: (
        StoreError,
        "{folder}/zittern.db is not a database of Zittern; move it away, or choose another folder with --data",
    ),
    sqlite3.SQLITE_CORRUPT: (
        StoreError,
        "{folder}/zittern.db is damaged; put a copy of it back, or choose another folder with --data",
    ),
    sqlite3.SQLITE_IOERR: (
        StoreError,
        "the disk of {folder} cannot be read or written just now; is there room, and is it still there?",
    ),
}
_UNKNOWN = (
    "the database in {folder} cannot be used ({fault}); put a copy of it back, or choose another folder with --data"
)


@contextmanager
def faults_of(folder: Path) -> Iterator[None]:
    """Raise StoreError, StoreFull or StoreBusy for what the disk or SQLite refuses under a data folder."""
    try:
        yield
    except DBAPIError as error:
        if not isinstance(error.orig, sqlite3.Error):
            raise
        raise _database_fault(folder, error.orig) from error
    except sqlite3.Error as error:
        raise _database_fault(folder, error) from error
    except OSError as error:
        raise disk_fault(folder, error) from error


def disk_fault(folder: Path, error: OSError) -> StoreError:
    """Return the message for a disk error."""
    kind, text = _DISK.get(
        error.errno or 0,
        (StoreError, f"{{folder}} cannot be used: {error.strerror or error}; choose another with --data"),
    )
    return kind(text.format(folder=folder))


def _database_fault(folder: Path, error: sqlite3.Error) -> StoreError:
    code = getattr(error, "sqlite_errorcode", 0) & 0xFF
    kind, text = _DATABASE.get(code, (StoreError, _UNKNOWN))
    return kind(text.format(folder=folder, fault=" ".join(str(error).split())[:120]))
