"""Arrays by name and tag.

A tag identifies the inputs of an array, so that an array that the client has is not computed again.
"""

from __future__ import annotations

import hashlib
import weakref
from collections.abc import Callable, Iterable
from functools import cached_property
from typing import Generic, TypeVar

import numpy as np

from zittern.core.units import Array

__all__ = ["Remembered", "Tagged", "derived", "tag_of", "tagged"]

_DIGEST_BYTES = 8
_Thing = TypeVar("_Thing")


class Tagged:
    """An array (F, ...) that is computed on first access."""

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


def tagged(array: Array) -> Tagged:
    """Return an existing array; its tag is its fingerprint, or that of the cached array that it is part of.

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
        return Tagged(tag_of(_content_tag(base), begins, array.shape, array.strides), lambda: array)
    return Tagged(_content_tag(array), lambda: array)


def derived(name: str, parts: Iterable[Tagged | object], make: Callable[[], Array]) -> Tagged:
    """Return an array (N, ...) that follows from others and from plain values, by a rule with a name."""
    return Tagged(tag_of(name, *parts), make)


def tag_of(*parts: Tagged | object) -> str:
    """Return the fingerprint of several things together."""
    text = "/".join(part.tag if isinstance(part, Tagged) else repr(part) for part in parts)
    return _hash(text.encode("utf-8", "surrogatepass"))


class Remembered(Generic[_Thing]):
    """Tags of things that do not change, by what `bytes_of` says of them, remembered while the things live."""

    def __init__(self, bytes_of: Callable[[_Thing], bytes | memoryview]) -> None:
        self._bytes_of = bytes_of
        self._known: dict[int, tuple[weakref.ref[_Thing], str]] = {}

    def tag(self, thing: _Thing) -> str:
        """Return the fingerprint of a thing: its identity is tested first, since it is usually the same object."""
        at = id(thing)
        found = self._known.get(at)
        if found is not None and found[0]() is thing:
            return found[1]
        tag = _hash(self._bytes_of(thing))
        self._known[at] = weakref.ref(thing, lambda gone: self._forget(at, gone)), tag
        return tag

    def _forget(self, at: int, gone: weakref.ref[_Thing]) -> None:
        found = self._known.get(at)
        if found is not None and found[0] is gone:
            self._known.pop(at, None)


def _content_tag(array: Array) -> str:
    """By content; that of a read-only array, which evaluation keeps, is remembered."""
    return _hash(_content(array)) if array.flags.writeable else _CONTENTS.tag(array)


def _content(array: Array) -> memoryview:
    return np.ascontiguousarray(array).data


_CONTENTS = Remembered(_content)


def _hash(data: bytes | memoryview) -> str:
    return hashlib.blake2b(data, digest_size=_DIGEST_BYTES).hexdigest()
