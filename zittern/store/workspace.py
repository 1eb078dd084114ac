"""Temporary files of one process: a separate folder in the data folder, locked while the process lives.

Temporary files are never in the folders of finished files. What a process that was killed left behind is
removed by the next one.
"""

from __future__ import annotations

import fcntl
import os
import secrets
import shutil
import threading
import time
from pathlib import Path
from typing import IO

from zittern.store.faults import faults_of

__all__ = ["Workspace"]

_LOCK = "in-use"
# A folder without a lock may just be being made by another process; after this long it is not.
_FRESH_S = 3600.0


class Workspace:
    """`DATA/work/TOKEN/`, made when first needed."""

    def __init__(self, data_dir: Path) -> None:
        self.data_dir = data_dir
        self._all = data_dir / "work"
        self._own: Path | None = None
        self._lock: IO[bytes] | None = None
        self._making = threading.Lock()

    def new_path(self, ending: str) -> Path:
        """Return an unused path for a new file. Raises StoreError."""
        return self._folder() / f"{secrets.token_hex(8)}{ending}"

    def _folder(self) -> Path:
        """Return the folder, created on first use, and again after it was removed."""
        with self._making, faults_of(self.data_dir):
            while self._own is None or self._lock is None or not _holds(self._lock, self._own):
                if self._lock is not None:
                    self._lock.close()
                folder = self._all / secrets.token_hex(8)
                folder.mkdir(parents=True)
                self._lock = (folder / _LOCK).open("wb")
                # Another process may have cleaned up in between; then the lock belongs to a deleted file.
                fcntl.flock(self._lock, fcntl.LOCK_EX)
                self._own = folder
            return self._own

    def clean(self) -> int:
        """Remove temporary files of dead processes, also those of older versions next to the sets.

        How many things went.
        """
        old = [
            *self.data_dir.glob("sets/*.part"),
            *(folder for folder in self._all.glob("*") if folder != self._own and not _in_use(folder)),
        ]
        for each in old:
            if each.is_dir():
                shutil.rmtree(each, ignore_errors=True)
            else:
                each.unlink(missing_ok=True)
        return len(old)

    def close(self) -> None:
        """Remove the folder with all that is in it."""
        if self._own is not None:
            shutil.rmtree(self._own, ignore_errors=True)
            self._own = None
        if self._lock is not None:
            self._lock.close()
            self._lock = None


def _holds(lock: IO[bytes], folder: Path) -> bool:
    """Return whether an open lock file is the one in a folder."""
    try:
        return os.path.samestat(os.fstat(lock.fileno()), (folder / _LOCK).stat())
    except OSError:
        return False


def _in_use(folder: Path) -> bool:
    try:
        if time.time() - folder.stat().st_mtime < _FRESH_S and not (folder / _LOCK).exists():
            return True
        with (folder / _LOCK).open("rb") as lock:
            fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except OSError:
        return True
    return False
