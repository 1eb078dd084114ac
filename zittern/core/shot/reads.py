"""Names that documents read: dials and path attributes; and whether each is allowed."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from typing import Literal

from zittern.core.documents.doc import Doc, parts
from zittern.core.formula.fault import unknown
from zittern.core.formula.tree import FRAME_ALIAS
from zittern.core.numbers.param import Number
from zittern.core.shot.dials import Dial
from zittern.core.sources.source import CUE_NAMES, CUES, SETTLED_SPEED, SourceDoc

__all__ = ["by_axis", "check_reads", "looks_at_frames_only", "numbers_in", "reads_of", "spanned"]


def reads_of(doc: Doc) -> frozenset[str]:
    """Names of the scope's values that a document depends on: what its numbers read, and its source.

    Kept with each of its parts.
    """
    if isinstance(doc, Number):
        return doc.reads
    known: frozenset[str] | None = doc.__dict__.get("_reads_of")
    if known is None:
        own = doc.reads if isinstance(doc, SourceDoc) else frozenset[str]()
        known = own.union(*(reads_of(part) for _, part in parts(doc)))
        doc.__dict__["_reads_of"] = known
    return known


def looks_at_frames_only(doc: Doc) -> bool:
    """Return whether a document depends only on frames: on no name, span, clock or axis. Kept with it."""
    known: bool | None = doc.__dict__.get("_frames_only")
    if known is None:
        known = doc.__dict__["_frames_only"] = not (reads_of(doc) or spanned(doc) or by_axis(doc))
    return known


def spanned(doc: Doc) -> bool:
    """Return whether a document's numbers depend on their span and clock."""
    return _any_number(doc, "spanned")


def by_axis(doc: Doc) -> bool:
    """Return whether a document's numbers differ by axis."""
    return _any_number(doc, "by_axis")


def _any_number(doc: Doc, what: Literal["spanned", "by_axis"]) -> bool:
    """Return whether any number of a document has a property. Kept with each of its parts."""
    if isinstance(doc, Number):
        return doc.spanned if what == "spanned" else doc.by_axis
    known: bool | None = doc.__dict__.get(f"_{what}")
    if known is None:
        known = doc.__dict__[f"_{what}"] = any(_any_number(part, what) for _, part in parts(doc))
    return known


def numbers_in(doc: Doc) -> Iterator[Number]:
    """All numbers of a document."""
    if isinstance(doc, Number):
        yield doc
    else:
        for _, part in parts(doc):
            yield from numbers_in(part)


def check_reads(
    dials: Sequence[Dial], path: Sequence[Doc], others: Sequence[Doc], facts: frozenset[str], whole: str = "the shot"
) -> None:
    """Raise ValueError for a missing name or a circular reference.

    path: inputs of the path attributes. whole: title of the document.
    """
    names = {dial.name for dial in dials}
    _no_circle(dials)
    for doc, known in (*((each, names) for each in path), *((each, names | facts) for each in others)):
        for name in sorted(reads_of(doc) - known - {CUES, CUE_NAMES, SETTLED_SPEED, FRAME_ALIAS}):
            called = getattr(doc, "name", whole)
            if name in facts:
                raise ValueError(
                    f"“{called}” cannot use `{name}`: it depends on the path of the camera, which this is part of"
                )
            raise ValueError(f"“{called}” reads a missing dial: {unknown(name, known, 0).message}")


def _no_circle(dials: Sequence[Dial]) -> None:
    by_name = {dial.name: dial for dial in dials}
    done: set[str] = set()

    def follow(name: str, way: tuple[str, ...]) -> None:
        if name in way:
            circle = (*way[way.index(name) :], name)
            raise ValueError(f"circular dial reference: {' → '.join(circle)}")
        if name in done:
            return
        if name == FRAME_ALIAS and name not in by_name:
            return
        if name not in by_name:
            raise ValueError(f"dial `{way[-1]}` reads a missing dial: {unknown(name, by_name, 0).message}")
        for each in sorted(reads_of(by_name[name])):
            follow(each, (*way, name))
        done.add(name)

    for dial in dials:
        follow(dial.name, ())
