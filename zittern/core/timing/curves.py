"""Keyed curves carried through a time map: the course before a cut and after it stays what it was, between frames too.

A segment that is cut becomes two free ones: a cubic in parts (de Casteljau 1959). A smooth segment depends on the
adjacent
keys; where these move elsewhere it becomes a free one of the same course. Where a map puts two courses side by side
that do not meet, the curve jumps at the cut.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from itertools import pairwise

from zittern.core.errors import EditError
from zittern.core.numbers.curves import LEAST_GAP_FRAMES, Curve, Handle, Interp, Key
from zittern.core.runtime import budget
from zittern.core.timing.course import (
    JUMP_FRAMES,
    Course,
    Part,
    all_free,
    nearly_equal,
    unfolded,
    value_at,
    with_changes,
)
from zittern.core.timing.cubics import Point, within
from zittern.core.timing.time_map import Bend, Piece, TimeMap

__all__ = ["MOST_WRITTEN_OUT", "Cut", "carried", "cut_out"]

# Repetitions are expanded at a cut, up to this many keys.
MOST_WRITTEN_OUT = 20_000


def carried(curve: Curve, timing: TimeMap) -> Curve:
    """Return the curve with its keys moved by the map.

    Raises EditError where what repeats would need too many keys.
    """
    if len(timing.pieces) == 1 or len(curve.keys) == 1:
        return curve.replace(keys=tuple(_retimed_key(key, timing.at(key.frame), timing) for key in curve.keys))
    budget.check()
    course = Course(unfolded(_written_out(curve, timing.reach), timing.cuts))
    keys: list[Key] = []
    made_last, shorter = False, _nothing
    for piece, start, stop in timing.parts():
        if piece.factor == 0.0:
            continue

        def part(until: float, start: float = start, piece: Piece = piece) -> Part:
            found = course.part(start, until, timing.takes_out)
            if isinstance(piece, Bend):
                return Part(_bent(found.keys, piece), found.made_first, found.made_last)
            moved = [_scaled(key, piece.at(key.frame), piece.factor) for key in found.keys]
            return Part(moved, found.made_first, found.made_last)

        more = part(stop)
        if timing.through and keys and more.keys and more.keys[0].frame - keys[-1].frame > JUMP_FRAMES:
            _run_through(keys, more, made_last)
        else:
            _join(keys, more.keys, shorter)
        if more.keys:
            made_last, shorter = more.made_last, lambda s=stop, of=part: of(s - JUMP_FRAMES).keys  # type: ignore[misc]
    return course.curve.replace(keys=tuple(keys))


@dataclass(frozen=True)
class Cut:
    """A curve cut at both ends of a range, each part with separate keys: cubics are free, with both handles.

    before, after: up to and from the exact ends; or slightly less, where the course should jump.
    """

    before: list[Key]
    before_jump: list[Key]
    inside: list[Key]
    after: list[Key]
    after_jump: list[Key]


def cut_out(curve: Curve, first: float, last: float, reach: tuple[float, float]) -> Cut:
    """Return a curve cut at both ends of a stretch. reach: first and last frame of the shot."""
    ends = [first, last, last + JUMP_FRAMES]
    whole = Course(all_free(unfolded(_written_out(curve, reach), ends)))

    def part(start: float, stop: float) -> list[Key]:
        """With a key at each end that is somewhere."""
        keys = list(whole.part(start, stop, lambda _: False).keys)
        if start > -math.inf and (not keys or keys[0].frame - start > LEAST_GAP_FRAMES):
            keys.insert(0, Key(frame=start, value=value_at(curve, start), interp=_straight(whole, start)))
        if stop < math.inf and (not keys or stop - keys[-1].frame > LEAST_GAP_FRAMES):
            if keys and stop > whole.frames[-1]:
                keys[-1] = with_changes(keys[-1], interp=_straight(whole, stop))
            keys.append(Key(frame=stop, value=value_at(curve, stop), interp=_straight(whole, stop)))
        apart = [after.frame - key.frame > LEAST_GAP_FRAMES for key, after in pairwise(keys)]
        return [key for key, stays in zip(keys, [*apart, True], strict=True) if stays]

    inside = part(first, last)
    # A hold segment has the value of the next key at its end.
    inside[-1] = inside[-1].replace(value=value_at(curve, last))
    return Cut(
        part(-math.inf, first), part(-math.inf, first - JUMP_FRAMES), inside,
        part(last, math.inf), part(last + JUMP_FRAMES, math.inf),
    )  # fmt: skip


def _straight(course: Course, frame: float) -> Interp:
    """Return the extension of a curve outside its keys, after repetitions are expanded."""
    outside = course.curve.before if frame < course.frames[0] else course.curve.after
    return "linear" if outside == "continue" else "hold"


def _nothing() -> list[Key]:
    return []


def _join(keys: list[Key], more: list[Key], shorter: Callable[[], list[Key]]) -> None:
    """Append a part: over a held gap, adjacent, or with a jump.

    shorter: keys of the part before that ends a little earlier.
    """
    if not keys or not more:
        keys.extend(more)
        return
    last, first = keys[-1], more[0]
    if first.frame - last.frame > JUMP_FRAMES:
        keys[-1] = with_changes(last, interp="hold")
        keys.extend(more)
    elif nearly_equal(last.value, first.value) or (len(keys) > 1 and keys[-2].interp == "hold"):
        keys[-1] = with_changes(first, handle_in=last.handle_in)
        keys.extend(more[1:])
    else:
        _end_early(keys, shorter())
        keys.extend(more)


def _end_early(keys: list[Key], short: list[Key]) -> None:
    """End a course a little before its end, and holds until there."""
    end = short[-1]
    while keys and keys[-1].frame >= end.frame:
        keys.pop()
    if keys and len(short) > 1:
        keys[-1] = with_changes(keys[-1], handle_out=short[-2].handle_out, interp=short[-2].interp)
    keys.append(with_changes(end, interp="hold"))


def _run_through(keys: list[Key], more: Part, made_last: bool) -> None:
    """Continue the cut segment through the gap with the slopes at both of its ends.

    Keys that were made at the cut are none.
    """
    ended = keys.pop() if made_last and len(keys) > 1 else None
    after = more.keys[1:] if more.made_first and len(more.keys) > 1 else more.keys
    last, first = keys[-1], after[0]
    if last.interp == "free":
        gap = first.frame - last.frame
        out, into = last.handle_out, first.handle_in or (ended.handle_in if ended else None)
        assert out is not None and into is not None, "both are ends of a cubic"
        keys[-1] = with_changes(last, handle_out=_reaching(out, gap / 3.0))
        first = with_changes(first, handle_in=_reaching(into, -gap / 3.0))
    keys.extend([first, *after[1:]])


def _reaching(handle: Handle, reach: float) -> Handle:
    """Return a handle of the same slope that reaches as far as that."""
    return (reach, handle[1] * reach / handle[0]) if handle[0] else (reach, 0.0)


def _written_out(curve: Curve, reach: tuple[float, float]) -> Curve:
    """Return the curve with keys over a range of frames instead of its extension."""
    first, last = curve.keys[0].frame, curve.keys[-1].frame
    low, high = min(reach[0] - 1.0, first), max(reach[1] + 2.0, last)
    on_before, on_after = curve.before != "hold" and low < first, curve.after != "hold" and high > last
    if not (on_before or on_after):
        return curve
    course = Course(curve)
    every = [course.frozen(i, lambda _: True) for i in range(len(curve.keys))]
    period = last - first
    back = math.ceil((first - low) / period) if on_before and curve.before == "repeat" else 0
    on = math.ceil((high - last) / period) if on_after and curve.after == "repeat" else 0
    if (back + on) * len(every) > MOST_WRITTEN_OUT:
        raise EditError(
            f"keys that repeat every {period:g} frames would have to be written out {back + on} times to be cut; let "
            f"them end first",
            "",
        )
    keys: list[Key] = []
    once = unfolded(curve.replace(keys=tuple(every), before="hold", after="hold"), [first + JUMP_FRAMES, last])
    round_, every = Course(once), list(once.keys)

    # The last key has its own value at its frame; where that differs, the repetition starts just after it.
    late = JUMP_FRAMES if not nearly_equal(every[-1].value, every[0].value) else 0.0

    def once_more(n: int, early: float = 0.0) -> list[Key]:
        start = first + late if n == 1 else first
        part = round_.part(start, last - early, lambda _: False).keys if start > first or early else every
        return [with_changes(key, frame=key.frame + n * period) for key in part]

    for n in range(-back, on + 1):
        if n == 1 and late:
            keys[-1] = with_changes(keys[-1], interp="hold")
            keys += once_more(n)
        else:
            _join(keys, once_more(n), lambda n=n: once_more(n - 1, JUMP_FRAMES))  # type: ignore[misc]
    if on_before and curve.before == "continue":
        keys.insert(0, Key(frame=low, value=value_at(curve, low), interp="linear"))
    if on_after and curve.after == "continue":
        keys[-1] = with_changes(keys[-1], interp="linear")
        keys.append(Key(frame=high, value=value_at(curve, high), interp="linear"))
    return curve.replace(
        keys=tuple(keys),
        before="hold" if curve.before == "repeat" else curve.before,
        after="hold" if curve.after == "repeat" else curve.after,
    )


def _retimed_key(key: Key, frame: float, timing: TimeMap) -> Key:
    return _scaled(key, frame, timing.pieces[0].factor)


def _bent(keys: list[Key], bend: Bend) -> list[Key]:
    """Return keys carried through a bend.

    Each segment becomes a cubic with the values and the velocities of the bent course at its ends.
    """
    out = [Key(frame=bend.at(key.frame), value=key.value, interp=key.interp) for key in keys]
    for n, (left, right) in enumerate(pairwise(keys)):
        gap = out[n + 1].frame - out[n].frame
        if left.interp == "hold" or gap <= LEAST_GAP_FRAMES:
            continue
        leaves, arrives = _slopes(left, right)
        reach = gap / 3.0
        out[n] = with_changes(out[n], interp="free", handle_out=(reach, leaves * bend.speed_at(left.frame) * reach))
        out[n + 1] = with_changes(out[n + 1], handle_in=(-reach, -arrives * bend.speed_at(right.frame) * reach))
    return out


def _slopes(left: Key, right: Key) -> tuple[float, float]:
    """Slopes at both ends of a segment that has its own handles."""
    straight = (right.value - left.value) / (right.frame - left.frame)
    if left.interp == "linear" or left.handle_out is None or right.handle_in is None:
        return straight, straight
    points = within(left, right, left.handle_out, right.handle_in)
    return (
        next(_slope(points[0], point) for point in points[1:] if point[0] > points[0][0]),
        next(_slope(point, points[3]) for point in points[2::-1] if point[0] < points[3][0]),
    )


def _slope(one: Point, other: Point) -> float:
    return (other[1] - one[1]) / (other[0] - one[0])


def _scaled(key: Key, frame: float, factor: float) -> Key:
    if frame == key.frame and factor == 1.0:
        return key

    def reach(handle: Handle | None) -> Handle | None:
        return handle and (handle[0] * factor, handle[1])

    return Key(
        frame=frame,
        value=key.value,
        interp=key.interp,
        handle_in=reach(key.handle_in),
        handle_out=reach(key.handle_out),
    )
