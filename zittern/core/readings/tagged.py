"""Arrays by name and tag. A tag says what an array was made from, so that one that somebody has already is not made
again.
"""

from __future__ import annotations

import hashlib
import weakref
from collections.abc import Callable, Iterable
from functools import cached_property

import numpy as np

from zittern.core.units import Array

__all__ = ["Tagged", "given", "made", "tag_of"]

_DIGEST_BYTES = 8


class Tagged:
    """An array (F, ...) that is made when it is first looked at."""

    def __init__(self, tag: str, make: Callable[[], Array]) -> None:
        self.tag = tag
        self._make = make

    @cached_property
    def values(self) -> Array:
        """The array.

        Returns
        -------
        (N, ...).
        """
        return self._make()


def given(array: Array) -> Tagged:
    """An array that is there; its tag is of its content, or where it is part of one that is kept, of that one's.

    Parameters
    ----------
    array: (N, ...).

    Returns
    -------
    It with its tag.
    """
    base = array.base
    if isinstance(base, np.ndarray) and not base.flags.writeable:
        begins = array.__array_interface__["data"][0] - base.__array_interface__["data"][0]
        return Tagged(tag_of(_CONTENTS.tag(base), begins, array.shape, array.strides), lambda: array)
    return Tagged(_CONTENTS.tag(array), lambda: array)


def made(name: str, parts: Iterable[Tagged | object], make: Callable[[], Array]) -> Tagged:
    """An array (N, ...) that follows from others and from plain values, by a rule with a name."""
    return Tagged(tag_of(name, *parts), make)


def tag_of(*parts: Tagged | object) -> str:
    """What stands for several things together."""
    text = "/".join(part.tag if isinstance(part, Tagged) else repr(part) for part in parts)
    return _hash(text.encode("utf-8", "surrogatepass"))


class _Contents:
    """Tags of arrays by content. Those of read-only arrays, which evaluation keeps, are remembered while the arrays
    live.
    """

    def __init__(self) -> None:
        self._known: dict[int, tuple[weakref.ref[Array], str]] = {}

    def tag(self, array: Array) -> str:
        at = id(array)
        found = self._known.get(at)
        if found is not None and found[0]() is array:
            return found[1]
        tag = _hash(np.ascontiguousarray(array).data)
        if not array.flags.writeable:
            self._known[at] = weakref.ref(array, lambda gone: self._forget(at, gone)), tag
        return tag

    def _forget(self, at: int, gone: weakref.ref[Array]) -> None:
        found = self._known.get(at)
        if found is not None and found[0] is gone:
            self._known.pop(at, None)


_CONTENTS = _Contents()


def _hash(data: bytes | memoryview) -> str:
    return hashlib.blake2b(data, digest_size=_DIGEST_BYTES).hexdigest()
