"""Arrays of earlier evaluations by fingerprints of all their inputs."""

from __future__ import annotations

import threading
from collections.abc import Callable
from typing import Any

from cachetools import LRUCache

from zittern.core.runtime import budget
from zittern.core.units import Array

__all__ = ["Cache"]

_Kept = LRUCache[tuple[Any, ...], Array]
# Arrays up to this size have a separate share: the state that stretches of springs pass on is small and slow to
# compute, and one view of a large rig would evict it.
_SMALL_BYTES = 16 * 2**10
_SMALL_SHARE = 8


class Cache:
    """The least recently used arrays go first, small ones and large ones apart.

    Several evaluations may share one: the lock is not held during computation, and two may compute the same array.
    """

    def __init__(self, most_bytes: int = 64 * 2**20) -> None:
        small = most_bytes // _SMALL_SHARE
        self._small: _Kept = LRUCache(small, getsizeof=lambda array: array.nbytes)
        self._large: _Kept = LRUCache(most_bytes - small, getsizeof=lambda array: array.nbytes)
        self._lock = threading.Lock()

    @property
    def bytes(self) -> int:
        """Return the size of all cached arrays."""
        return int(self._small.currsize + self._large.currsize)

    def get(self, key: tuple[Any, ...], make: Callable[[], Array]) -> Array:
        """Return the array for a key, made when missing; read-only.

        Returns
        -------
        (N, ...), of any shape.
        """
        with self._lock:
            found = self._small.get(key)
            if found is None:
                found = self._large.get(key)
        if found is not None:
            return found
        budget.check()
        made = make()
        made.flags.writeable = False
        with self._lock:
            kept = self._small if made.nbytes <= _SMALL_BYTES else self._large
            if made.nbytes <= kept.maxsize:
                return kept.setdefault(key, made)
        return made
