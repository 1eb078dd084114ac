"""Time edits in command-line form, several in one command."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass

from zittern.core.edits.timing import InsertTime, ReverseTime, ShiftAfter, StretchTime, TakeOutTime
from zittern.core.errors import BadInput, faults_as
from zittern.core.shot.shot import Shot

__all__ = ["TimeEdit", "all_at_once", "edits_of", "reversing"]

TimeEdit = InsertTime | TakeOutTime | StretchTime | ShiftAfter

# No frame is written with more digits.
_MOST_DIGITS = 12
_AT = re.compile(r"^([+-]?\d+)@(-?\d+)$")
_RANGE = re.compile(r"^(-?\d+)-(-?\d+)$")
_LENGTH = re.compile(r"^(-?\d+)-(-?\d+)=(\d+)$")


@dataclass(frozen=True, slots=True)
class _Written:
    """Command-line form of a time edit, an example, and the command for its numbers."""

    pattern: re.Pattern[str]
    wanted: str
    made: Callable[..., TimeEdit]


# By option of `zittern retime`.
_KINDS: Mapping[str, _Written] = {
    "--insert": _Written(
        _AT,
        "frames@frame, for example 24@96",
        lambda count, frame, **ways: InsertTime(frame=frame, frames=count, **ways),
    ),
    "--take-out": _Written(
        _RANGE,
        "first-last, for example 96-119",
        lambda first, last, **ways: TakeOutTime(first_frame=first, last_frame=last, **ways),
    ),
    "--stretch": _Written(
        _LENGTH,
        "first-last=frames, for example 96-119=48",
        lambda first, last, count, **ways: StretchTime(first_frame=first, last_frame=last, frames=count, **ways),
    ),
    "--shift": _Written(
        _AT,
        "frames@frame, for example -12@96",
        lambda by, frame, **ways: ShiftAfter(frame=frame, by_frames=by, **ways),
    ),
}


def edits_of(option: str, texts: Iterable[str], **ways: object) -> list[TimeEdit]:
    """Return the edits behind an option of the shell command; ways: further fields of their commands. Raises BadInput.

    >>> edits_of("--insert", ["24@96"], runs="keep")[0].frames
    24
    """
    kind = _KINDS[option]
    found = []
    for text in texts:
        match = kind.pattern.match(text.strip())
        if match is None or any(len(part) > _MOST_DIGITS for part in match.groups()):
            raise BadInput(f"expected {kind.wanted}, got {text[:60]!r}", option)
        with faults_as(BadInput, option):
            found.append(kind.made(*map(int, match.groups()), **ways))
    return found


def reversing(text: str) -> ReverseTime:
    """Return a range run backwards, as `96-119`. Raises BadInput.

    >>> reversing("96-119").last_frame
    119
    """
    match = _RANGE.match(text.strip())
    if match is None or any(len(part) > _MOST_DIGITS for part in match.groups()):
        raise BadInput(f"expected first-last, for example 96-119, got {text[:60]!r}", "--reverse")
    first, last = map(int, match.groups())
    with faults_as(BadInput, "--reverse"):
        return ReverseTime(first_frame=first, last_frame=last)


def all_at_once(shot: Shot, edits: Sequence[TimeEdit]) -> Shot:
    """Return the shot after several edits, all in frames of the present shot.

    Raises BadInput where they overlap, EditError for what cannot be done.
    """
    rising = sorted(edits, key=_reach)
    for one, other in zip(rising, rising[1:], strict=False):
        if _reach(one)[1] > _reach(other)[0] or _reach(one) == _reach(other):
            raise BadInput(
                f"“{one.label(shot)}” and “{other.label(shot)}” affect the same frames; apply them one after the other",
                "",
            )
    for edit in reversed(rising):
        shot = edit.apply(shot)
    return shot


def _reach(edit: TimeEdit) -> tuple[int, int]:
    """Return the frames that an edit is about: the first, and the one after the last."""
    if isinstance(edit, InsertTime):
        return edit.frame, edit.frame
    if isinstance(edit, ShiftAfter):
        return min(edit.frame, edit.frame + edit.by_frames), edit.frame
    return edit.first_frame, edit.last_frame + 1
