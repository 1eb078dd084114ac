"""Ids and names that are free."""

from __future__ import annotations

from collections.abc import Container, Iterable
from itertools import count

from zittern.core.shot.shot import Shot

__all__ = ["free_id", "free_name"]

_STEM_LENGTH = 32


def free_name(wanted: str, taken: Container[str], mark: str = "-") -> str:
    """What is wanted, or where it is taken the same with the lowest number behind it: `arm`, `arm-2`, `arm-3`.

    >>> free_name("arm", {"arm", "arm-2"})
    'arm-3'
    """
    if wanted not in taken:
        return wanted
    return next(name for n in count(2) if (name := f"{wanted}{mark}{n}") not in taken)


def free_id(shot: Shot, stem: str, also_taken: Iterable[str] = ()) -> str:
    """`noise-3`: an id that no lane, clip or layer of a shot has. A number behind the stem is counted on."""
    taken = (
        {layer.id for _, layer in shot.layers()}
        | {clip.id for clip in shot.clips()}
        | {lane.id for lane in shot.lanes}
        | set(also_taken)
    )
    head, _, number = stem.rpartition("-")
    base = (head if number.isdigit() and head else stem)[:_STEM_LENGTH]
    n = 1
    while f"{base}-{n}" in taken:
        n += 1
    return f"{base}-{n}"
