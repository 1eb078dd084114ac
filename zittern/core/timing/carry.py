"""THE VISITOR of everything in a document that carries frames: keys, handles, spans, ramps, clocks, ranges.

Fields that hold frames are marked in their type (`timemarks`); a test walks the schema and fails for a number without
decided about.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from functools import cache, partial
from typing import Any, TypeVar, cast

from zittern.core.documents.doc import Doc, rebuilt
from zittern.core.documents.timemarks import TimeMark
from zittern.core.numbers.curves import Curve
from zittern.core.numbers.param import Number
from zittern.core.shot.layers import Spanned
from zittern.core.timing.curves import carried
from zittern.core.timing.limits import limited
from zittern.core.timing.time_map import TimeMap

__all__ = ["retimed", "timed_fields"]

D = TypeVar("D", bound=Doc)

Change = Callable[[TimeMap, Any, Doc], Any]


def _end(timing: TimeMap, value: float | None) -> float | None:
    """Return the end of a range that includes a frame: one frame before the next one."""
    return None if value is None else timing.end(value)


def _first(timing: TimeMap, value: int) -> int:
    return round(timing.before(value))


def _last(timing: TimeMap, value: int) -> int:
    return round(timing.at(value + 1.0) - 1.0)


def _span(timing: TimeMap, value: tuple[float, float] | None) -> tuple[float, float] | None:
    return value and (timing.at(value[0]), max(timing.end(value[1]), timing.at(value[0])))


def _ramp_in(timing: TimeMap, value: float, of: Doc) -> float:
    """Return the ramp with the new length of its frames, from the start of its span.

    Without a span the shot's own start.
    """
    span = cast(Spanned, of).span_frames
    start = span[0] if span is not None else _finite(timing.reach[0])
    return max(timing.length(start, value), 0.0) if value else value


def _ramp_out(timing: TimeMap, value: float, of: Doc) -> float:
    span = cast(Spanned, of).span_frames
    last = span[1] if span is not None else _finite(timing.reach[1])
    return max(timing.end(last) - timing.at(last - value), 0.0) if value else value


def _finite(frame: float) -> float:
    """Return an edge of the shot; any frame where there is no shot: such maps are even."""
    return frame if math.isfinite(frame) else 0.0


# Rule for each mark; keys are carried by their curves.
_CHANGES: Mapping[str, Change] = {
    "at": lambda timing, value, _: timing.at(value),
    "end": lambda timing, value, _: _end(timing, value),
    "first": lambda timing, value, _: _first(timing, value),
    "last": lambda timing, value, _: _last(timing, value),
    "span": lambda timing, value, _: _span(timing, value),
    "later": lambda timing, value, of: timing.length(of.start_frame, value) if value else value,  # type: ignore[attr-defined]
    "by itself": lambda _, value, __: value,
    "ramp in": _ramp_in,
    "ramp out": _ramp_out,
}


@cache
def timed_fields(kind: type[Doc]) -> Mapping[str, TimeMark]:
    """Fields of a kind of document that carry frames, and how."""
    found: dict[str, TimeMark] = {}
    for name, field in kind.model_fields.items():
        mark = next((each for each in field.metadata if isinstance(each, TimeMark)), None)
        if mark is not None:
            found[name] = mark
    return found


def retimed(doc: D, timing: TimeMap) -> D:
    """Return the document with everything that carries frames moved.

    Raises DocumentError for frames out of range, EditError for parts that cannot be cut.
    """
    if timing.is_identity:
        return doc
    if isinstance(doc, Curve):
        return cast(D, carried(doc, timing))
    changes: dict[str, Any] = {
        name: _CHANGES[mark.kind](timing, getattr(doc, name), doc) for name, mark in timed_fields(type(doc)).items()
    }
    if isinstance(doc, Number) and doc.curve is not None:
        # New keys at the cut of a curve beyond its limits stay within them.
        changes["curve"] = limited(carried(doc.curve, timing), *doc.limits)
    if isinstance(doc, Spanned) and changes.get("span_frames"):
        changes |= _fitting_ramps(doc, changes)
    return rebuilt(doc, partial(retimed, timing=timing), **changes)


def _fitting_ramps(doc: Spanned, changes: dict[str, Any]) -> dict[str, float]:
    """Ramps that still find room in a span: where a frame has become shorter, they end with it."""
    first, last = changes["span_frames"]
    into, out = (changes.get(name, getattr(doc, name)) for name in ("ramp_in_frames", "ramp_out_frames"))
    both, length = into + out, last - first
    if both <= length:
        return {}
    return {"ramp_in_frames": into * length / both, "ramp_out_frames": out * length / both}
