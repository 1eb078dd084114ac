"""One evaluation: a shot, frames and a cache, and what all stages need of them.

THE ONE PLACE where keys of arrays are built.

A key is the stage, the frames, the frame rate, the shot's range, and what the array is computed from: documents by
their `motion_key` (content and limits, without names), each with what is behind every name that it reads and, where it
looks at them, the span, clock and axis it is read through.
"""

from __future__ import annotations

import hashlib
from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass, field, replace
from typing import Any, TypeVar, cast

from zittern.core.documents.doc import Doc, digest
from zittern.core.motion.cache import Cache
from zittern.core.numbers.scope import Scope, Tables
from zittern.core.shot.layers import Spanned
from zittern.core.shot.reads import by_axis, looks_at_frames_only, reads_of, spanned
from zittern.core.shot.shot import Shot
from zittern.core.units import Array

__all__ = ["Evaluation", "KeyGroup", "Part", "Read"]


@dataclass(frozen=True, slots=True)
class Read:
    """A document that is read through another scope than the evaluation's own: another span, clock or axis."""

    doc: Doc
    scope: Scope


@dataclass(frozen=True, slots=True)
class KeyGroup:
    """Several parts that many arrays are computed from, with one short text in their place."""

    parts: tuple[object, ...]
    text: str


_T = TypeVar("_T")
# Values that are their own keys: most parts are, so they are tested first.
_PLAIN = frozenset({str, int, float, bool, type(None)})
# Input of an array: a document, a document with its scope, or a plain value.
Part = object


@dataclass
class Evaluation:
    """shot, frames (F,), cache.

    tables: where stages keep what they make for the whole shot, which serves all evaluations of it. `scope` contains
    the inputs of numbers; the stage of the move adds the path attributes to it. prints: the inputs of each name in the
    scope; facts: the same for rarely used ones.
    """

    shot: Shot
    frames: Array
    cache: Cache
    tables: Cache | None = None
    scope: Scope = field(init=False)
    span: tuple[float, float] = field(init=False)
    # Shared part of every key: frame rate and range.
    _shared: tuple[float, ...] = field(init=False)
    _grid: str = field(init=False)
    prints: dict[str, str] = field(default_factory=dict)
    facts: dict[str, Callable[[Evaluation], str]] = field(default_factory=dict)
    _made: dict[tuple[str, int], tuple[Doc, object]] = field(default_factory=dict)

    def __post_init__(self) -> None:
        """Create the shared parts of all keys."""
        self.span = self.shot.span
        self._grid = hash_of(self.frames)
        self._shared = (self.shot.fps.num, self.shot.fps.den, *self.span)
        self.prints |= dial_prints(self.shot)
        self.scope = replace(self.shot.scope(self.frames), tables=self._memoized())

    def over(self, frames: Array, cache: Cache) -> Evaluation:
        """Return an evaluation of the same shot at other frames, which shares the path attributes.

        Parameters
        ----------
        frames : (F,) float64, frame numbers.

        Returns
        -------
        An evaluation.
        """
        out = Evaluation(self.shot, frames, cache, self.tables or self.cache)
        out.scope, out.prints, out.facts = self.scope.over(frames), dict(self.prints), self.facts
        return out

    def memoized(self, stage: str, parts: Iterable[Part], compute: Callable[[], Array]) -> Array:
        """Return an array of a stage at the evaluation's frames.

        Returns
        -------
        (F, ...).
        """
        return self.cache.get((stage, self._grid, *self._shared, *map(self.key_of, parts)), compute)

    def table(self, stage: str, parts: Iterable[Part], compute: Callable[[], Array]) -> Array:
        """Return an array of a stage that does not depend on the evaluation's frames.

        One of the whole shot, or on a separate grid that is among the parts.

        Returns
        -------
        (N, ...).
        """
        return (self.tables or self.cache).get((stage, *self._shared, *map(self.key_of, parts)), compute)

    def _memoized(self) -> Tables:
        """Return the `tables` of the scope: for stages that know scopes only.

        Their documents read nothing but dials. It does not refer to the evaluation.
        """
        cache, shared, prints = self.tables or self.cache, self._shared, dict(self.prints)

        def key_of(part: object) -> object:
            if not isinstance(part, Doc):
                return part
            return part.motion_key, *(prints.get(name, "") for name in sorted(reads_of(part)))

        return lambda stage, parts, make: cache.get((stage, *shared, *map(key_of, parts)), make)

    def lookup(self, stage: str, parts: Iterable[Part]) -> Callable[[Array, Callable[[], Array]], Array]:
        """Arrays of a stage at any frames: (frames (F,), compute) -> (F, ...).

        It does not hold on to the evaluation.
        """
        cache, key = self.cache, (stage, *self._shared, *map(self.key_of, parts))
        return lambda frames, compute: cache.get((*key, hash_of(frames)), compute)

    def key_of(self, part: Part) -> Any:
        """Return the cache key of a part."""
        if type(part) in _PLAIN:
            return part
        if isinstance(part, KeyGroup):
            return part.text
        if isinstance(part, tuple):
            return tuple(map(self.key_of, part))
        if isinstance(part, Read):
            return self._key(part.doc, part.scope)
        return self._key(part, self.scope) if isinstance(part, Doc) else part

    def printed(self, what: str, of: Doc, parts: Callable[[], tuple[Part, ...]]) -> KeyGroup:
        """Parts that have to do with a document, printed once in this evaluation."""

        def made() -> KeyGroup:
            each = parts()
            return KeyGroup(each, self.print_of(each))

        return self.once(what, of, made)

    def print_of(self, parts: Sequence[Part]) -> str:
        """Return the cache key of several parts, as a short text."""
        return digest(repr([self.key_of(part) for part in parts]))

    def _key(self, doc: Doc, scope: Scope) -> object:
        if looks_at_frames_only(doc):
            return doc.motion_key
        behind = tuple(map(self.print_behind, sorted(reads_of(doc))))
        return (
            doc.motion_key,
            behind,
            (scope.span, scope.later_frames) if spanned(doc) else (),
            scope.axis if by_axis(doc) else 0,
        )

    def print_behind(self, name: str) -> str:
        """Return the cache key of a name in the scope; empty for a missing one."""
        if name in self.facts and name not in self.prints:
            self.prints[name] = self.facts[name](self)
        return self.prints.get(name, "")

    def once(self, what: str, of: Doc, make: Callable[[], _T]) -> _T:
        """Something about a document that several stages ask for, made once in this evaluation."""
        at = (what, id(of))
        if at not in self._made:
            self._made[at] = (of, make())
        return cast(_T, self._made[at][1])

    def span_of(self, *parts: Spanned) -> tuple[float, float]:
        """Return the span of the first of some parts that has one; the shot's when none has."""
        return next((part.span_frames for part in parts if part.span_frames is not None), self.span)


def hash_of(values: Array) -> str:
    """Hash of an array's values.

    Parameters
    ----------
    values: (N, ...).

    Returns
    -------
    Text.
    """
    return hashlib.blake2b(values.tobytes(), digest_size=12).hexdigest()


def dial_prints(shot: Shot) -> dict[str, str]:
    """Return the inputs of each dial: itself, and the dials that it reads. Each is computed once."""
    by_name = {dial.name: dial for dial in shot.dials}
    out: dict[str, str] = {}

    def print_of(name: str) -> str:
        if name not in out:
            dial = by_name[name]
            out[name] = digest(
                "/".join([dial.motion_key, *(print_of(each) for each in sorted(reads_of(dial) & by_name.keys()))])
            )
        return out[name]

    for name in by_name:
        print_of(name)
    return out
