"""One evaluation: a shot, frames and a cache, and what all stages need of them."""

from __future__ import annotations

import hashlib
from collections.abc import Callable, Iterable
from dataclasses import dataclass, field
from typing import Any

from zittern.core.doc import Doc
from zittern.core.motion.cache import Cache
from zittern.core.numbers.scope import Scope
from zittern.core.shot.layers import Spanned
from zittern.core.shot.reads import reads_of, spanned
from zittern.core.shot.shot import Shot
from zittern.core.units import Array

__all__ = ["Run"]


@dataclass
class Run:
    """shot, frames (F,), cache. tables: where stages keep what they make for the whole shot, which serves all runs of it. `scope` is what numbers may look
    at; the stage of the move adds the facts of the path to it. `made_of` names, for each value of the scope, what it was made from.
    """

    shot: Shot
    frames: Array
    cache: Cache
    scope: Scope = field(init=False)
    span: tuple[float, float] = field(init=False)
    base: tuple[Any, ...] = field(init=False)
    tables: Cache = field(init=False)
    made_of: dict[str, str] = field(default_factory=dict)

    def __post_init__(self) -> None:
        self.scope = self.shot.scope(self.frames)
        self.tables = self.cache
        self.span = (float(self.shot.first_frame), float(self.shot.last_frame))
        grid = hashlib.blake2b(self.frames.tobytes(), digest_size=12).hexdigest()
        self.base = (grid, self.shot.fps.num, self.shot.fps.den, *self.span)
        for dial in self.shot.dials:
            self.made_of[dial.name] = self._dial_key(dial.name)

    def over(self, frames: Array, cache: Cache) -> Run:
        """The same shot at other frames, with what this run knows of the path."""
        out = Run(self.shot, frames, cache)
        out.tables = self.tables
        out.scope, out.made_of = self.scope.over(frames), dict(self.made_of)
        return out

    def kept(self, name: str, made_from: Iterable[object], make: Callable[[], Array]) -> Array:
        """An array of a stage at the run's frames, by what it is made from: documents count with what they read."""
        return self.cache.get((name, self.base, *map(self.key_of, made_from)), make)

    def key_of(self, part: object) -> object:
        """What stands for a part in a key: a document's content, and what is behind each value that it reads."""
        if not isinstance(part, Doc):
            return part
        read = reads_of(part)
        return (part.fingerprint, *(self.made_of.get(name, "") for name in sorted(read))) if read else part.fingerprint

    def span_of(self, *parts: Spanned) -> tuple[float, float]:
        """The span of the first of some parts that has one; the shot's when none has."""
        return next((part.span_frames for part in parts if part.span_frames is not None), self.span)

    def key_in(self, part: Doc, span: tuple[float, float]) -> object:
        """The same, of a part whose numbers may count their progress through a span."""
        return (self.key_of(part), span) if spanned(part) else self.key_of(part)

    def _dial_key(self, name: str) -> str:
        """What a dial is made from: itself, and the dials that it reads."""
        dial = next(each for each in self.shot.dials if each.name == name)
        return "/".join([dial.fingerprint, *(self._dial_key(each) for each in sorted(reads_of(dial)))])
