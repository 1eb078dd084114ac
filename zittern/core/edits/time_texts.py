"""Edits of time as they are written on a command line, and several of them at once."""

from __future__ import annotations

import re
from collections.abc import Iterable, Sequence

from zittern.core.edits.timing import InsertTime, ShiftAfter, StretchTime, TakeOut
from zittern.core.errors import BadInput, faults_as
from zittern.core.shot.shot import Shot
from zittern.core.timing.ripple import Runs

__all__ = ["TimeEdit", "all_at_once", "inserts", "shifts", "stretches", "take_outs"]

TimeEdit = InsertTime | TakeOut | StretchTime | ShiftAfter

_AT = re.compile(r"^([+-]?\d+)@(-?\d+)$")
_RANGE = re.compile(r"^(-?\d+)-(-?\d+)$")
_LENGTH = re.compile(r"^(-?\d+)-(-?\d+)=(\d+)$")


def inserts(texts: Iterable[str], runs: Runs, through: bool = False) -> list[TimeEdit]:
    """`24@96`: 24 frames in before frame 96. Raises BadInput."""
    found: list[TimeEdit] = []
    for text in texts:
        count, frame = _read(_AT, text, "--insert", "frames@frame, for example 24@96")
        with faults_as(BadInput, "--insert"):
            found.append(InsertTime(frame=frame, frames=count, gap="through" if through else "hold", runs=runs))
    return found


def shifts(texts: Iterable[str], runs: Runs) -> list[TimeEdit]:
    """`+12@96`, `-12@96`: all from frame 96 on later or earlier. Raises BadInput."""
    found: list[TimeEdit] = []
    for text in texts:
        by, frame = _read(_AT, text, "--shift", "frames@frame, for example -12@96")
        with faults_as(BadInput, "--shift"):
            found.append(ShiftAfter(frame=frame, by_frames=by, runs=runs))
    return found


def take_outs(texts: Iterable[str], runs: Runs) -> list[TimeEdit]:
    """`96-119`: without these frames. Raises BadInput."""
    found: list[TimeEdit] = []
    for text in texts:
        first, last = _read(_RANGE, text, "--take-out", "first-last, for example 96-119")
        with faults_as(BadInput, "--take-out"):
            found.append(TakeOut(first_frame=first, last_frame=last, runs=runs))
    return found


def stretches(texts: Iterable[str], runs: Runs) -> list[TimeEdit]:
    """`96-119=48`: these frames last 48. Raises BadInput."""
    found: list[TimeEdit] = []
    for text in texts:
        first, last, count = _read(_LENGTH, text, "--stretch", "first-last=frames, for example 96-119=48")
        with faults_as(BadInput, "--stretch"):
            found.append(StretchTime(first_frame=first, last_frame=last, frames=count, runs=runs))
    return found


def all_at_once(shot: Shot, edits: Sequence[TimeEdit]) -> Shot:
    """The shot after several edits, all in frames of the shot as it is. Raises BadInput where they overlap, EditError
    for what cannot be done.
    """
    rising = sorted(edits, key=_reach)
    for one, other in zip(rising, rising[1:], strict=False):
        if _reach(one)[1] > _reach(other)[0] or _reach(one) == _reach(other):
            raise BadInput(
                f"“{one.label(shot)}” and “{other.label(shot)}” are about the same frames; do one after the other", ""
            )
    for edit in reversed(rising):
        shot = edit.apply(shot)
    return shot


def _reach(edit: TimeEdit) -> tuple[int, int]:
    """The frames that an edit is about: the first, and the one after the last."""
    if isinstance(edit, InsertTime):
        return edit.frame, edit.frame
    if isinstance(edit, ShiftAfter):
        return min(edit.frame, edit.frame + edit.by_frames), edit.frame
    return edit.first_frame, edit.last_frame + 1


def _read(pattern: re.Pattern[str], text: str, option: str, wanted: str) -> list[int]:
    found = pattern.match(text.strip())
    if found is None or any(len(part) > 12 for part in found.groups()):
        raise BadInput(f"expected {wanted}, got {text[:60]!r}", option)
    return [int(part) for part in found.groups()]
