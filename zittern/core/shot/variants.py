"""Variants: alternatives of all that makes motion, on the same move, rig geometry, cues and set.

One of them is active in the document; the others are stored.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from functools import cached_property
from typing import Annotated, ClassVar

from pydantic import Field, StringConstraints

from zittern.core.documents.doc import Doc, Id, Label
from zittern.core.numbers.param import Param
from zittern.core.shot.clips import Clip
from zittern.core.shot.dials import DialName
from zittern.core.shot.lanes import Lane
from zittern.core.shot.operator import HoldFraming, Operator
from zittern.core.shot.springs import Springs

__all__ = ["MOST_VARIANTS", "DialAside", "MountAside", "StoredVariant", "Variant", "VariantNote", "clips_in", "ids_in"]

MOST_VARIANTS = 8
VariantNote = Annotated[str, StringConstraints(strip_whitespace=True, max_length=500)]


class MountAside(Doc):
    """Parts of a variant on a mount."""

    mount: Id
    operator: Operator | None = None
    springs: Springs | None = None


class DialAside(Doc):
    """Value of a dial in a variant."""

    dial: DialName
    value: Param


class StoredVariant(Doc):
    """Motion of a variant that is not active in the document.

    mounts: those that have an operator or springs; dials: their values.
    """

    lanes: Annotated[tuple[Lane, ...], Field(max_length=500)] = ()
    hold: HoldFraming | None = None
    mounts: Annotated[tuple[MountAside, ...], Field(max_length=50)] = ()
    dials: Annotated[tuple[DialAside, ...], Field(max_length=100)] = ()

    @cached_property
    def ids(self) -> frozenset[str]:
        """Ids of its lanes, clips and layers, each with what it is: `layer:sway`."""
        return frozenset(ids_in(self.lanes))


class Variant(Doc):
    """One of several alternatives. aside: its stored motion; None for the active one."""

    motion_irrelevant: ClassVar[frozenset[str]] = frozenset({"id", "name", "note", "aside"})

    id: Id
    name: Label
    note: VariantNote = ""
    aside: StoredVariant | None = None


def clips_in(lanes: Iterable[Lane]) -> Iterator[Clip]:
    """All clips of some lanes, from the bottom up."""
    for lane in lanes:
        yield from lane.clips


def ids_in(lanes: Iterable[Lane]) -> Iterator[str]:
    """`lane:main`, `clip:main`, `layer:sway`: all that has an id in some lanes."""
    for lane in lanes:
        yield f"lane:{lane.id}"
        for clip in lane.clips:
            yield f"clip:{clip.id}"
            yield from (f"layer:{layer.id}" for layer in clip.layers)
