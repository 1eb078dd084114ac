"""A range of a shot in reverse: keys are mirrored, motion by phase runs backwards by its clip's clock.

Frame f of the stretch a to b shows what a + b - f showed. What follows from something else in time (hits, steps, roads,
takes, springs, an operator) cannot be reversed, and continues forwards.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable
from typing import TypeVar

from zittern.core.documents.doc import Doc, rebuilt
from zittern.core.numbers.curves import Curve, Handle, Key
from zittern.core.numbers.param import Number
from zittern.core.shot.clips import Clip
from zittern.core.shot.layers import Layer, Span
from zittern.core.shot.rides import Ride
from zittern.core.shot.shot import Shot, Subject
from zittern.core.shot.targets import TargetChange
from zittern.core.timing.course import JUMP_FRAMES, all_free, nearly_equal, spaced
from zittern.core.timing.curves import cut_out
from zittern.core.timing.limits import limited

__all__ = ["mirrored", "mirrored_clip", "mirrored_path", "turned_about"]

_D = TypeVar("_D", bound=Doc)
# Parts that follow the set or a person are unchanged.
_STAYS = (Ride, Subject, TargetChange)


def mirrored(curve: Curve, first: float, last: float, reach: Span) -> Curve:
    """Return a curve with the course from first to last reversed.

    Where the ends of that do not meet the rest, it jumps within a thousandth of a frame.
    """
    if len(curve.keys) == 1:
        return curve
    cut = cut_out(curve, first, last, reach)
    turned = list(_turned(cut.inside, first + last))
    early, late = cut.before[:-1], cut.after[1:]
    arrives, leaves = cut.before[-1], cut.after[0]
    if first > reach[0] or early:
        if nearly_equal(arrives.value, turned[0].value):
            turned[0] = turned[0].replace(handle_in=arrives.handle_in)
        else:
            early = cut.before_jump
            early[-1] = early[-1].replace(interp="hold")
    if last < reach[1] or late:
        if nearly_equal(leaves.value, turned[-1].value):
            turned[-1] = turned[-1].replace(interp=leaves.interp, handle_out=leaves.handle_out)
        else:
            late = cut.after_jump
    return curve.replace(keys=spaced([*early, *turned, *late]))


def turned_about(curve: Curve, about: float) -> Curve:
    """Return a reversed curve: frame f has the value of about - f."""
    keys = spaced(list(_turned(list(all_free(curve).keys), about)))
    return curve.replace(keys=keys, before=curve.after, after=curve.before)


def _turned(keys: list[Key], about: float) -> Iterable[Key]:
    """Return the keys in reverse.

    Handles are swapped, a segment takes its interpolation from its other key; a hold up to a key becomes a hold just
    after it.
    """
    for n in range(len(keys) - 1, -1, -1):
        key, frame = keys[n], about - keys[n].frame
        kind = keys[n - 1].interp if n else "linear"
        held = n > 0 and kind == "hold"
        yield Key(
            frame=frame, value=key.value, interp=kind,
            handle_in=_back(key.handle_out), handle_out=None if held else _back(key.handle_in),
        )  # fmt: skip
        if held and keys[n - 1].value != key.value:
            yield Key(frame=frame + JUMP_FRAMES, value=keys[n - 1].value, interp="hold")


def _back(handle: Handle | None) -> Handle | None:
    return handle and (-handle[0], handle[1])


def _numbers(doc: _D, change: Callable[[Curve], Curve]) -> _D:
    """Return a document with every curve in it changed, within the limits of its number."""

    def changed(part: Doc) -> Doc:
        if isinstance(part, Curve):
            return change(part)
        return part if isinstance(part, _STAYS) else _numbers(part, change)

    if isinstance(doc, Number) and doc.curve is not None:
        curve = change(doc.curve)
        return doc if curve is doc.curve else rebuilt(doc, changed, curve=limited(curve, *doc.limits))
    return rebuilt(doc, changed)


def mirrored_path(shot: Shot, first: float, last: float) -> Shot:
    """Mounts, lens, dials, plates, hold and cues of a shot, without its clips."""
    reach = shot.span

    def numbers(doc: _D) -> _D:
        return _numbers(doc, lambda curve: mirrored(curve, first, last, reach))

    cues = (
        cue.replace(frame=first + last - cue.frame) if first <= cue.frame <= last else cue
        for cue in map(numbers, shot.cues)
    )
    return shot.replace(
        focal_mm=numbers(shot.focal_mm),
        glass=shot.glass and numbers(shot.glass),
        mounts=tuple(map(numbers, shot.mounts)),
        dials=tuple(map(numbers, shot.dials)),
        plates=tuple(map(numbers, shot.plates)),
        hold=shot.hold and numbers(shot.hold),
        cues=tuple(sorted(cues, key=lambda cue: cue.frame)),
    )


def mirrored_clip(clip: Clip, first: float, last: float, reach: Span) -> Clip:
    """Return a clip within a range, reversed: its bar with its ramps, its numbers, its clock."""
    about = first + last
    clock = clip.clock_in(reach)
    assert clock.end_frame is not None, "a clock in a shot has an end"
    turned = clock.replace(
        start_frame=about - clock.start_frame, end_frame=about - clock.end_frame, backwards=not clock.backwards
    )

    def numbers(doc: _D) -> _D:
        # Curves outside the bar affect its phases: they are reversed completely.
        return _numbers(doc, lambda curve: turned_about(curve, about))

    layers = tuple(_mirrored_spans(numbers(layer), about) for layer in clip.layers)
    spans = clip.replace(layers=layers, clock=turned, amount=numbers(clip.amount), speed=numbers(clip.speed))
    return _mirrored_spans(spans, about)


_S = TypeVar("_S", Clip, Layer)


def _mirrored_spans(part: _S, about: float) -> _S:
    into, out = part.ramp_in_frames, part.ramp_out_frames
    span = part.span_frames and (about - part.span_frames[1], about - part.span_frames[0])
    return part.replace(span_frames=span, ramp_in_frames=out, ramp_out_frames=into)
