"""One evaluation: a shot, frames and a cache, and what all stages need of them."""

from __future__ import annotations

import hashlib
from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass, field
from typing import Any

from zittern.core.doc import Doc
from zittern.core.motion.cache import Cache
from zittern.core.numbers.param import Number
from zittern.core.numbers.scope import Scope
from zittern.core.shot.shot import Shot
from zittern.core.sources.source import SourceDoc
from zittern.core.units import Array

__all__ = ["Run", "documents_in", "reads_of"]


@dataclass
class Run:
    """shot, frames (F,), cache. `scope` is what numbers may look at; the stage of the move adds the facts of the path to it, and
    `facts_key` names what those were made from.
    """

    shot: Shot
    frames: Array
    cache: Cache
    scope: Scope = field(init=False)
    span: tuple[float, float] = field(init=False)
    base: tuple[Any, ...] = field(init=False)
    facts_key: str = ""

    def __post_init__(self) -> None:
        self.scope = self.shot.scope(self.frames)
        self.span = (float(self.shot.first_frame), float(self.shot.last_frame))
        grid = hashlib.blake2b(self.frames.tobytes(), digest_size=12).hexdigest()
        self.base = (grid, self.shot.fps.num, self.shot.fps.den, *self.span)

    def kept(self, name: str, made_from: Iterable[object], make: Callable[[], Array]) -> Array:
        """An array of a stage at the run's frames, by what it is made from: documents count with what they read."""
        return self.cache.get((name, self.base, *map(self.key_of, made_from)), make)

    def key_of(self, part: object) -> object:
        """What stands for a part in a key: a document's content, and the values of the scope if it reads any."""
        if not isinstance(part, Doc):
            return part
        return (part.fingerprint, self.facts_key) if reads_of(part) else part.fingerprint


def documents_in(doc: Doc) -> Iterator[Doc]:
    """A document, and every document and number in it."""
    yield doc
    for name in type(doc).model_fields:
        value = getattr(doc, name)
        for each in value if isinstance(value, tuple) else (value,):
            if isinstance(each, Doc):
                yield from documents_in(each)


def reads_of(doc: Doc) -> frozenset[str]:
    """Names of the scope's values that a document depends on: what its numbers read, and its source."""
    known: frozenset[str] | None = doc.__dict__.get("_reads_of")
    if known is None:
        known = frozenset().union(*(each.reads for each in documents_in(doc) if isinstance(each, Number | SourceDoc)))
        doc.__dict__["_reads_of"] = known
    return known
