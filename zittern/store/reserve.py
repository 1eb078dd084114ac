"""Room that is kept back, so that something can be deleted when the disk is full.

SQLite writes before it releases space.
"""

from __future__ import annotations

import os
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

__all__ = ["RESERVE_BYTES", "Reserve"]

# Enough for the log of a deletion and of giving the space back, a part at a time.
RESERVE_BYTES = 16 * 2**20
_NAME = "reserve"


class Reserve:
    """An unused file of RESERVE_BYTES in the data folder. Several processes may share it."""

    def __init__(self, data_dir: Path, size_bytes: int = RESERVE_BYTES) -> None:
        self._path = data_dir / _NAME
        self._size_bytes = size_bytes
        self.keep()

    def keep(self) -> bool:
        """Reserve the space if enough is free; return whether it is reserved."""
        try:
            if self._path.exists() and self._path.stat().st_size == self._size_bytes:
                return True
            room = os.statvfs(self._path.parent)
            if room.f_bavail * room.f_frsize < 2 * self._size_bytes:
                return False
            with self._path.open("wb") as file:
                os.posix_fallocate(file.fileno(), 0, self._size_bytes)
        except OSError:
            self._path.unlink(missing_ok=True)
            return False
        return True

    @contextmanager
    def released(self) -> Iterator[None]:
        """Release its space inside the context; afterwards it is reserved again if possible."""
        self._path.unlink(missing_ok=True)
        try:
            yield
        finally:
            self.keep()
