"""Arrays of earlier evaluations by exactly what they were made from."""

from __future__ import annotations

import threading
from collections.abc import Callable
from typing import Any

from cachetools import LRUCache

from zittern.core import budget
from zittern.core.units import Array

__all__ = ["Cache"]


class Cache:
    """The least recently used arrays go first.

    Several evaluations may share one: nothing is locked while an array is made, at worst two make the same.
    """

    def __init__(self, most_bytes: int = 64 * 2**20) -> None:
        self._kept: LRUCache[tuple[Any, ...], Array] = LRUCache(most_bytes, getsizeof=lambda array: array.nbytes)
        self._lock = threading.Lock()

    @property
    def bytes(self) -> int:
        """What is kept just now."""
        return int(self._kept.currsize)

    def get(self, key: tuple[Any, ...], make: Callable[[], Array]) -> Array:
        """The array for a key, of any shape (N, ...), made when missing; read-only."""
        with self._lock:
            found = self._kept.get(key)
        if found is not None:
            return found
        budget.check()
        made = make()
        made.flags.writeable = False
        with self._lock:
            if made.nbytes <= self._kept.maxsize:
                return self._kept.setdefault(key, made)
        return made
