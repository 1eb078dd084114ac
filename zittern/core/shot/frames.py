"""THE VISITOR of everything in a document that carries frames: keys, handles, spans, ramps, ranges. An edit of time
moves all of it.

A new field that carries frames adds a row here; a test walks the schema and fails for one that is missing.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any, TypeVar, cast

from zittern.core.doc import Doc
from zittern.core.numbers.curves import Key
from zittern.core.shot.clips import Clip, Clock
from zittern.core.shot.cues import Cue
from zittern.core.shot.layers import Layer, Spanned
from zittern.core.shot.shot import Shot

__all__ = ["CARRIES", "Retiming", "retimed"]

D = TypeVar("D", bound=Doc)


@dataclass(frozen=True, slots=True)
class Retiming:
    """frame -> about + (frame - about) x factor + shift; lengths of time x factor."""

    shift_frames: float = 0.0
    factor: float = 1.0
    about_frame: float = 0.0

    def at(self, frame: float) -> float:
        """Where a frame goes."""
        return self.about_frame + (frame - self.about_frame) * self.factor + self.shift_frames

    def length(self, frames: float) -> float:
        """How long a stretch becomes."""
        return frames * self.factor


Change = Callable[[Retiming, Any], Any]


def _frame(timing: Retiming, value: float) -> float:
    return timing.at(value)


def _end(timing: Retiming, value: float | None) -> float | None:
    """Where a stretch that lasts through a frame ends: one frame before the next one."""
    return None if value is None else timing.at(value + 1.0) - 1.0


def _first(timing: Retiming, value: int) -> int:
    return round(timing.at(value))


def _last(timing: Retiming, value: int) -> int:
    return round(timing.at(value + 1.0) - 1.0)


def _length(timing: Retiming, value: float) -> float:
    return timing.length(value)


def _span(timing: Retiming, value: tuple[float, float] | None) -> tuple[float, float] | None:
    return value and (timing.at(value[0]), max(timing.at(value[1] + 1.0) - 1.0, timing.at(value[0])))


def _handle(timing: Retiming, value: tuple[float, float] | None) -> tuple[float, float] | None:
    return value and (timing.length(value[0]), value[1])


_SPANNED: Mapping[str, Change] = {"span_frames": _span, "ramp_in_frames": _length, "ramp_out_frames": _length}
# Which fields of which documents carry frames, and how each is moved.
CARRIES: Mapping[type[Doc], Mapping[str, Change]] = {
    Key: {"frame": _frame, "handle_in": _handle, "handle_out": _handle},
    Layer: _SPANNED,
    Cue: {"frame": _frame},
    Clip: _SPANNED,
    Clock: {"start_frame": _frame, "end_frame": _end, "later_frames": _length},
    Shot: {"first_frame": _first, "last_frame": _last},
}


def retimed(doc: D, timing: Retiming) -> D:
    """The document with everything that carries frames moved. Raises DocumentError when something would lie out of
    reach.
    """
    if timing.shift_frames == 0.0 and timing.factor == 1.0:
        return doc
    if isinstance(doc, Key):  # there may be very many: as below, at a fifth of the cost
        ends = {"handle_in": _handle(timing, doc.handle_in), "handle_out": _handle(timing, doc.handle_out)}
        return cast(D, Key(frame=timing.at(doc.frame), value=doc.value, interp=doc.interp, **ends))
    own = CARRIES.get(type(doc), {})
    changes: dict[str, Any] = {}
    for name in type(doc).model_fields:
        value = getattr(doc, name)
        moved = own[name](timing, value) if name in own else _within(value, timing)
        if moved is not value:
            changes[name] = moved
    if isinstance(doc, Spanned) and changes.get("span_frames"):
        changes |= _fitting_ramps(doc, changes)
    return doc.replace(**changes) if changes else doc


def _fitting_ramps(doc: Spanned, changes: dict[str, Any]) -> dict[str, float]:
    """Ramps that still find room in a span: where a frame has become shorter, they end with it."""
    first, last = changes["span_frames"]
    into, out = (changes.get(name, getattr(doc, name)) for name in ("ramp_in_frames", "ramp_out_frames"))
    both, length = into + out, last - first
    if both <= length:
        return {}
    return {"ramp_in_frames": into * length / both, "ramp_out_frames": out * length / both}


def _within(value: Any, timing: Retiming) -> Any:
    if isinstance(value, Doc):
        return retimed(value, timing)
    if isinstance(value, tuple) and any(isinstance(each, Doc) for each in value):
        moved = tuple(retimed(each, timing) if isinstance(each, Doc) else each for each in value)
        return moved if any(new is not old for new, old in zip(moved, value, strict=True)) else value
    return value
