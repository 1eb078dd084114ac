"""A recorder for tests: what every kept array reads, field by field and name by name, is compared with what stands
in its key.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator
from contextlib import contextmanager
from typing import Any
from unittest.mock import patch

from zittern.core.documents.doc import Doc
from zittern.core.motion import aim, facts
from zittern.core.motion.evaluation import Evaluation, KeyGroup, Read
from zittern.core.numbers.scope import Scope
from zittern.core.shot.mounts import Mount
from zittern.core.shot.reads import by_axis, reads_of, spanned
from zittern.core.shot.shot import Shot
from zittern.core.sources.source import CUES, Moments
from zittern.core.units import Array

# Every key has these; what hangs together how is in the order of the parts.
_ALWAYS = {("Shot", "fps"), ("Shot", "first_frame"), ("Shot", "last_frame"), ("Fps", "num"), ("Fps", "den")}
# What is derived from these stands in the key: a clock, seeds, leads.
_DERIVED = {
    ("Clip", "span_frames"),
    ("Clip", "clock"),
    ("Layer", "span_frames"),
    ("AxisSetting", "seed"),
    ("AxisSetting", "linked_to"),
    # A layer of no corner is as it would be in a plain clip; others have the whole blend in their keys.
    ("Blend", "method"),
    # What is read by a name counts with what stands behind it: `names`.
    ("Dial", "name"),
}
_STRUCTURE = {
    "id",
    "target",
    "mute",
    "solo",
    "mode",
    "clips",
    "layers",
    "lanes",
    "mounts",
    "cues",
    "dials",
    "operator",
    "springs",
    "ride",
    "hold",
    "subject",
    "blend",
    "corner",
}


class Recorder:
    """frames: one open reading for each array that is being computed. missing: what was read and is not in the key."""

    def __init__(self) -> None:
        self.frames: list[dict[tuple[str, str], Any]] = []
        self.names: list[set[str]] = []
        self.known: dict[Any, tuple[dict[tuple[str, str], Any], set[str]]] = {}
        self.missing: set[str] = set()
        self.checked: dict[str, int] = {}
        self.quiet = 0

    def read(self, doc: Doc, field: str, value: Any) -> None:
        if self.frames and not self.quiet:
            self.frames[-1].setdefault((type(doc).__name__, field), {})[_mark(value)] = value

    def check(self, stage: str, parts: tuple[Any, ...]) -> None:
        covered, plain, names, placed, axis = _covered(parts)
        for (kind, field), values in self.frames[-1].items():
            if (
                (kind, field) in _ALWAYS | _DERIVED
                or field in _STRUCTURE
                or kind == "Clock"
                or (kind == "Cue" and "·cues" in names)
            ):
                continue
            for mark, value in values.items():
                if isinstance(value, Doc) or (isinstance(value, tuple) and value and isinstance(value[0], Doc)):
                    continue  # its own fields are what counts
                if (kind, field, mark) not in covered and mark not in plain:
                    self.missing.add(f"{stage}: {kind}.{field}")
        for name in self.names[-1]:
            told = placed if name in ("t", "f", "u") else axis if name == "·axis" else name in names or name == "fps"
            if not told:
                self.missing.add(f"{stage}: name {name}")
        self.checked[stage] = self.checked.get(stage, 0) + 1


def _mark(value: Any) -> Any:
    if isinstance(value, Doc):
        return id(value)
    if not isinstance(value, tuple):
        return repr(value)
    # Long ones are read again and again. Held on to, so that no other comes to have its id.
    if id(value) not in _MARKS:
        _MARKS[id(value)] = value, repr(value)
    return _MARKS[id(value)][1]


_MARKS: dict[int, tuple[Any, str]] = {}


def _docs(part: Any) -> Iterator[Doc]:
    if isinstance(part, Read):
        yield from _docs(part.doc)
    elif isinstance(part, Doc):
        yield part
        for name in type(part).model_fields:
            if name not in part.motion_irrelevant:
                yield from _docs(getattr(part, name))
    elif isinstance(part, (tuple, KeyGroup)):
        for each in part.parts if isinstance(part, KeyGroup) else part:
            yield from _docs(each)


def _all_docs(doc: Doc) -> Iterator[Doc]:
    """A document and all within it."""
    yield doc
    for name in type(doc).model_fields:
        value = getattr(doc, name)
        for each in value if isinstance(value, tuple) else (value,):
            if isinstance(each, Doc):
                yield from _all_docs(each)


def _plain(part: Any) -> Iterator[Any]:
    if isinstance(part, KeyGroup):
        yield from _plain(part.parts)
    elif isinstance(part, tuple):
        yield _mark(part)
        for each in part:
            yield from _plain(each)
    elif not isinstance(part, (Doc, Read)):
        yield _mark(part)


def _covered(parts: tuple[Any, ...]) -> tuple[set[Any], set[Any], set[str], bool, bool]:
    docs = list(_docs(parts))
    covered = {
        (type(doc).__name__, name, _mark(getattr(doc, name)))
        for doc in docs
        for name in type(doc).model_fields
        if name not in doc.motion_irrelevant
    }
    names = {name for doc in docs for name in reads_of(doc)}
    return covered, set(_plain(parts)), names, any(map(spanned, docs)), any(map(by_axis, docs))


@contextmanager
def recording(shot_of: Callable[[], Shot]) -> Iterator[Recorder]:
    """Every array that an evaluation keeps is checked while this lasts."""
    recorder = Recorder()
    own = {id(doc) for doc in _all_docs(shot_of())}
    kept, table, lookup, value = Evaluation.memoized, Evaluation.table, Evaluation.lookup, Scope.value

    def field_of(self: Doc, name: str) -> Any:
        found = object.__getattribute__(self, name)
        if recorder.frames and not recorder.quiet and id(self) in own and name in type(self).model_fields:
            recorder.read(self, name, found)
        return found

    def watched(
        stage: str,
        parts: tuple[Any, ...],
        key: Any,
        compute: Callable[[], Array],
        get: Callable[[Callable[[], Array]], Array],
    ) -> Array:
        def computed() -> Array:
            recorder.frames.append({})
            recorder.names.append(set())
            try:
                out = compute()
                recorder.quiet += 1
                recorder.check(stage, parts)
                recorder.quiet -= 1
                return out
            finally:
                recorder.known[key] = recorder.frames.pop(), recorder.names.pop()

        out = get(computed)
        if recorder.frames and key in recorder.known:  # what it was computed from, those around it depend on as well
            reads, names = recorder.known[key]
            for where, values in reads.items():
                recorder.frames[-1].setdefault(where, {}).update(values)
            recorder.names[-1] |= names
        return out

    def parts_key(self: Evaluation, stage: str, parts: tuple[Any, ...], grid: str) -> Any:
        recorder.quiet += 1
        try:
            return (stage, grid, *(self.key_of(part) for part in parts))
        finally:
            recorder.quiet -= 1

    def quietly(parts: Iterable[Any]) -> tuple[Any, ...]:
        return tuple(parts)

    def watched_kept(self: Evaluation, stage: str, parts: Iterable[Any], compute: Callable[[], Array]) -> Array:
        held = quietly(parts)
        return watched(
            stage, held, parts_key(self, stage, held, self._grid), compute, lambda made: kept(self, stage, held, made)
        )

    def watched_table(self: Evaluation, stage: str, parts: Iterable[Any], compute: Callable[[], Array]) -> Array:
        held = quietly(parts)
        return watched(
            stage, held, parts_key(self, stage, held, ""), compute, lambda made: table(self, stage, held, made)
        )

    def watched_lookup(
        self: Evaluation, stage: str, parts: Iterable[Any]
    ) -> Callable[[Array, Callable[[], Array]], Array]:
        held = tuple(parts)
        found = lookup(self, stage, held)
        docs = facts.parts_of_fact(held[0], self.shot)
        return lambda frames, compute: watched(
            f"{stage} {held[0]}", docs, (stage, held, frames.tobytes()), compute, lambda made: found(frames, made)
        )

    moments = facts.moments
    key_of, post_init, aiming = Evaluation.key_of, Evaluation.__post_init__, aim.aiming

    def quiet_key(self: Evaluation, part: Any) -> Any:
        recorder.quiet += 1
        try:
            return key_of(self, part)
        finally:
            recorder.quiet -= 1

    def quiet_aiming(shot: Shot) -> Mount | None:
        """Who aims at all is structure; what is aimed with is not."""
        recorder.quiet += 1
        try:
            return aiming(shot)
        finally:
            recorder.quiet -= 1

    def quiet_init(self: Evaluation) -> None:
        recorder.quiet += 1
        try:
            post_init(self)
        finally:
            recorder.quiet -= 1

    def watched_value(self: Scope, name: str) -> Array:
        if recorder.frames and not recorder.quiet:
            recorder.names[-1].add(name)
        recorder.quiet += 1  # what is behind a name is told by its print
        try:
            return value(self, name)
        finally:
            recorder.quiet -= 1

    def watched_moments(run: Evaluation) -> Moments:
        if recorder.frames and not recorder.quiet:
            recorder.names[-1].add(CUES)
        recorder.quiet += 1  # what cues are is told by their print, the way to the lens of those with a place too
        try:
            return moments(run)
        finally:
            recorder.quiet -= 1

    with (
        patch.object(facts, "moments", watched_moments),
        patch.object(Doc, "__getattribute__", field_of, create=True),
        patch.object(Evaluation, "memoized", watched_kept),
        patch.object(Evaluation, "table", watched_table), patch.object(Evaluation, "lookup", watched_lookup),
        patch.object(Scope, "value", watched_value),
        patch.object(Evaluation, "key_of", quiet_key), patch.object(Evaluation, "__post_init__", quiet_init),
        patch.object(aim, "aiming", quiet_aiming),
    ):  # fmt: skip
        yield recorder
