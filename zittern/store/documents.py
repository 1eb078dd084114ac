"""Documents packed for the database (JSON, deflated), and a small cache of unpacked ones by revision."""

from __future__ import annotations

import threading
import zlib
from collections import OrderedDict

from zittern.core.shot.shot import Shot
from zittern.core.shot.upgrades import read_shot, write_shot

__all__ = ["Documents", "pack", "unpack"]


def pack(shot: Shot) -> bytes:
    """Bytes for the document column."""
    return zlib.compress(write_shot(shot).encode(), 6)


def unpack(data: bytes) -> Shot:
    """The document, brought to the present version. Raises DocumentError."""
    return read_shot(zlib.decompress(data))


class Documents:
    """Unpacked documents by revision id; the least recently used go first. A revision never changes."""

    def __init__(self, most: int = 64) -> None:
        self._most = most
        self._kept: OrderedDict[int, Shot] = OrderedDict()
        self._lock = threading.Lock()

    def get(self, revision_id: int, packed: bytes) -> Shot:
        """The document of a revision."""
        with self._lock:
            found = self._kept.get(revision_id)
            if found is not None:
                self._kept.move_to_end(revision_id)
                return found
        shot = unpack(packed)
        self.put(revision_id, shot)
        return shot

    def put(self, revision_id: int, shot: Shot) -> None:
        """Remembers a document."""
        with self._lock:
            self._kept[revision_id] = shot
            while len(self._kept) > self._most:
                self._kept.popitem(last=False)
