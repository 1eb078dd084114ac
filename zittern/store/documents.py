"""Documents packed for the database (JSON, deflated), and a small cache of unpacked ones by content.

Samples of takes that occur several times in a document, as in its variants, are packed once: later occurrences
`"data":"*N"` names the N-th different ones. No samples begin like that, and no text of a document has quotes without a
backslash before them.
"""

from __future__ import annotations

import re
import threading
import zlib

from cachetools import LRUCache

from zittern.core.errors import DocumentError
from zittern.core.shot.shot import Shot
from zittern.core.shot.upgrades import read_shot, write_shot
from zittern.store.cards import digest_of

__all__ = ["Documents", "pack", "raw", "unpack"]

# For large documents even fast compression is slower than saving; level 1 is a quarter larger and four times as fast as
# 6.
_LEVEL = 1
# A document of this much JSON is far larger than any shot that can be edited; a packed one is read no further than
# that.
_MOST_JSON_BYTES = 512 * 2**20
# Size of the JSON of cached documents; each takes some ten times as much memory. Packed bytes say nothing about that:
# thousands of keys that are alike pack well.
_KEPT_BYTES = 6 * 2**20
_LEAST_BYTES = 2**14
# Samples, or the number of such that came before.
_SAMPLES = re.compile(rb'"data":"([A-Za-z0-9+/=]{256,}|\*[0-9]+)"')


def pack(shot: Shot) -> bytes:
    """Bytes for the document column."""
    return zlib.compress(_once(write_shot(shot).encode()), _LEVEL)


def unpack(data: bytes) -> Shot:
    """Return the document, brought to the present version. Raises DocumentError."""
    return read_shot(raw(data))


def raw(data: bytes) -> bytes:
    """Return the JSON of a packed document, readable or not. Raises DocumentError when it cannot even be inflated."""
    inflater = zlib.decompressobj()
    try:
        text = inflater.decompress(data, _MOST_JSON_BYTES)
    except zlib.error as error:
        raise DocumentError(f"the stored bytes are damaged ({error})") from error
    if not inflater.eof:
        raise DocumentError("the stored bytes are cut off")
    return _each_time(text)


def _once(text: bytes) -> bytes:
    """Return JSON that contains equal samples once."""
    known: dict[bytes, int] = {}

    def named(found: re.Match[bytes]) -> bytes:
        samples = found[1]
        if samples in known:
            return b'"data":"*%d"' % known[samples]
        known[samples] = len(known)
        return found[0]

    return _SAMPLES.sub(named, text)


def _each_time(text: bytes) -> bytes:
    """Return the document with all of them restored. Raises DocumentError where some are missing, or far too many."""
    known: list[bytes] = []
    size = len(text)

    def expanded(found: re.Match[bytes]) -> bytes:
        nonlocal size
        samples = found[1]
        if not samples.startswith(b"*"):
            known.append(samples)
            return found[0]
        number = int(samples[1:9])
        size += len(known[number]) if number < len(known) else 0
        if number >= len(known) or size > _MOST_JSON_BYTES:
            raise DocumentError("the stored bytes name samples that are not there")
        return b'"data":"%s"' % known[number]

    return _SAMPLES.sub(expanded, text)


class Documents:
    """Cache of unpacked documents by the digest of their packed bytes.

    The least recently used go first.
    """

    def __init__(self, most_bytes: int = _KEPT_BYTES) -> None:
        self._kept: LRUCache[str, tuple[Shot, int]] = LRUCache(most_bytes, getsizeof=lambda entry: entry[1])
        self._lock = threading.Lock()

    def get(self, packed: bytes) -> Shot:
        """Return the document of some packed bytes. Raises DocumentError."""
        key = digest_of(packed)
        with self._lock:
            found = self._kept.get(key)
        if found is not None:
            return found[0]
        text = raw(packed)
        shot = read_shot(text)
        self._remember(key, shot, len(text))
        return shot

    def put(self, packed: bytes, shot: Shot) -> None:
        """Cache a document that was just packed; a very large one evicts all others."""
        self._remember(digest_of(packed), shot, len(write_shot(shot)))

    def _remember(self, key: str, shot: Shot, text_bytes: int) -> None:
        size = min(max(text_bytes, _LEAST_BYTES), int(self._kept.maxsize))
        with self._lock:
            self._kept[key] = shot, size
