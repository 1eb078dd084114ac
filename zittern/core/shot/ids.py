"""Ids and names that are free."""

from __future__ import annotations

from collections.abc import Container, Iterable
from itertools import count

from zittern.core.shot.shot import Shot

__all__ = ["counted_on", "free_id", "free_name", "ids_of", "names_in", "take_id"]

_STEM_LENGTH = 32


def free_name(wanted: str, taken: Container[str], mark: str = "-") -> str:
    """Return a name, with the lowest free number appended where it is taken: `arm`, `arm-2`, `arm-3`.

    >>> free_name("arm", {"arm", "arm-2"})
    'arm-3'
    """
    if wanted not in taken:
        return wanted
    return next(name for n in count(2) if (name := f"{wanted}{mark}{n}") not in taken)


def free_id(shot: Shot, stem: str, also_taken: Iterable[str] = ()) -> str:
    """`noise-3`: an id that no lane, clip or layer of a shot has, of no variant.

    A number behind the stem is counted on.
    """
    return counted_on(stem, names_in(shot) | set(also_taken))


def ids_of(shot: Shot) -> frozenset[str]:
    """`layer:sway`: ids of all lanes, clips and layers of all variants."""
    return shot.ids.union(*(each.aside.ids for each in shot.variants if each.aside is not None))


def names_in(shot: Shot) -> set[str]:
    """Return the names without their kinds."""
    return {each.partition(":")[2] for each in ids_of(shot)}


def take_id(stem: str, taken: set[str]) -> str:
    """Return a free id for a set of ids, and add it to the set."""
    free = counted_on(stem, taken)
    taken.add(free)
    return free


def counted_on(stem: str, taken: Container[str]) -> str:
    """Return the first id of a stem with a number that nothing has."""
    head, _, number = stem.rpartition("-")
    base = (head if number.isdigit() and head else stem)[:_STEM_LENGTH]
    n = 1
    while f"{base}-{n}" in taken:
        n += 1
    return f"{base}-{n}"
