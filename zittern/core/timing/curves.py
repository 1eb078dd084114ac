"""Keyed curves carried through a time map: the course before a cut and after it stays what it was, between frames too.

A segment that is cut becomes two free ones: a cubic in parts (de Casteljau 1959). A smooth segment hangs on the keys
beside it; where these go elsewhere it becomes a free one of the same course. Where a map puts two courses side by side
that do not meet, the curve jumps at the cut.
"""

from __future__ import annotations

import math
from bisect import bisect_left
from collections.abc import Callable
from dataclasses import dataclass
from functools import cached_property
from itertools import pairwise

import numpy as np

from zittern.core import budget
from zittern.core.errors import EditError
from zittern.core.numbers.curves import LEAST_GAP_FRAMES, Curve, Handle, Interp, Key
from zittern.core.timing.cubics import Cubic, folded, halves, handle_to, middle_of_fold, share_at, within
from zittern.core.timing.time_map import Piece, TimeMap

__all__ = ["JUMP_FRAMES", "MOST_WRITTEN_OUT", "Cut", "alike", "all_free", "carried", "cut_out", "limited"]

# What repeats is written out where it is cut, with no more keys than this.
MOST_WRITTEN_OUT = 20_000
# A jump at a cut takes this long: less than what counts as at once (curves.STEEP_FRAMES).
JUMP_FRAMES = 1e-3
# Values this near, relative to their size, are the same.
_SAME = 1e-12
_CUBIC = ("smooth", "free")
# Where a curve crosses a limit is looked for at so many frames of a segment, and then halved; crossings closer than
# this many frames are one.
_LOOKS_A_SEGMENT, _HALVINGS, _APART = 33, 40, 1e-4


@dataclass(frozen=True)
class _Part:
    """Keys of a stretch; whether the first and the last of them were made where it was cut."""

    keys: list[Key]
    made_first: bool
    made_last: bool


@dataclass(frozen=True)
class _Course:
    """A curve with keys that can be cut: every key with both of its handles, as segments need them."""

    curve: Curve

    @cached_property
    def frames(self) -> list[float]:
        return [key.frame for key in self.curve.keys]

    def segment(self, frame: float) -> int | None:
        """The number of the cubic segment that a frame lies in, between its keys; none elsewhere."""
        at = bisect_left(self.frames, frame)
        inside = 0 < at < len(self.frames) and self.frames[at] != frame
        return at - 1 if inside and self.curve.keys[at - 1].interp in _CUBIC else None

    def cubic(self, i: int) -> Cubic:
        """Control points of a segment."""
        out, into = self.curve.handles(i)[1], self.curve.handles(i + 1)[0]
        assert out is not None and into is not None, "both keys have a segment between them"
        return within(self.curve.keys[i], self.curve.keys[i + 1], out, into)

    def cut(self, frame: float) -> tuple[Key, Key, Handle | None, Handle | None]:
        """The curve cut at a frame within its keys: the key that ends the left part, the one that begins the right
        part, and what the handles of the keys on both sides become (None where they stay).
        """
        keys = self.curve.keys
        at = bisect_left(self.frames, frame)
        if self.frames[at] == frame:
            key, before = keys[at], keys[at - 1].interp
            into = self.curve.handles(at)[0] if before in _CUBIC else None
            value = keys[at - 1].value if before == "hold" else key.value
            return Key(frame=frame, value=value, handle_in=into), key, None, None
        left = keys[at - 1]
        if left.interp not in _CUBIC:
            value = left.value if left.interp == "hold" else _between(left, keys[at], frame)
            return Key(frame=frame, value=value), Key(frame=frame, value=value, interp=left.interp), None, None
        points = self.cubic(at - 1)
        first, second = halves(points, share_at(points, frame))
        ended = Key(frame=frame, value=first[3][1], handle_in=handle_to(first[3], first[2]))
        begun = Key(frame=frame, value=first[3][1], interp="free", handle_out=handle_to(second[0], second[1]))
        return ended, begun, handle_to(points[0], first[1]), handle_to(points[3], second[2])

    def part(self, start: float, stop: float, swallowed: Callable[[float], bool]) -> _Part:
        """The same course from start to stop. swallowed: whether a frame is taken out; where that befell the first or
        the last key, what is held outside of them needs one.
        """
        frames = self.frames
        low, high = bisect_left(frames, start), bisect_left(frames, stop)

        def moved(i: int) -> bool:
            return not start <= frames[i] < stop

        keys = [self._frozen(i, moved) for i in range(low, high)]
        made_first, made_last = frames[0] < start < frames[-1] and frames[low] != start, frames[0] < stop <= frames[-1]
        if made_first:
            _, begun, _, into = self.cut(start)
            if into is not None and keys:
                keys[0] = _with(keys[0], handle_in=into)
            keys.insert(0, begun)
        if made_last:
            ended, _, out, _ = self.cut(stop)
            if out is not None and len(keys) > made_first:
                keys[-1] = _with(keys[-1], handle_out=out, interp="free")
            elif made_first and len(keys) == 1:
                ended = self._both_cut(keys, start, stop, ended)
            keys.append(ended)
        if keys:
            return _Part(keys, made_first, made_last)
        edge, near = (stop, frames[0]) if stop <= frames[0] else (start, frames[-1])
        value = self.curve.keys[0 if near == frames[0] else -1].value
        return _Part([Key(frame=edge, value=value, interp="hold")] if swallowed(near) else [], True, True)

    def _both_cut(self, keys: list[Key], start: float, stop: float, ended: Key) -> Key:
        """The end of a part that has no key of its own: of the segment from start on, the piece up to stop."""
        begun = keys[0]
        if begun.interp != "free":
            return ended
        at = bisect_left(self.frames, start)
        rest = self.curve.keys[at]
        _, _, _, into = self.cut(start)
        assert begun.handle_out is not None and into is not None, "a cubic has both"
        points = within(begun, rest, begun.handle_out, into)
        first, _ = halves(points, share_at(points, stop))
        keys[0] = _with(begun, handle_out=handle_to(first[0], first[1]))
        return _with(ended, handle_in=handle_to(first[3], first[2]))

    def _frozen(self, i: int, moved: Callable[[int], bool]) -> Key:
        """A key with its handles, where the segments beside it are no longer smooth by themselves."""
        key = self.curve.keys[i]
        leaves = key.interp in _CUBIC and self._hangs_on(i, moved)
        arrives = i > 0 and self.curve.keys[i - 1].interp in _CUBIC and self._hangs_on(i - 1, moved)
        if not (leaves or arrives):
            return key
        into, out = self.curve.handles(i)
        if leaves:
            key = _with(key, handle_out=out, interp="free")
        return _with(key, handle_in=into) if arrives else key

    def _hangs_on(self, i: int, moved: Callable[[int], bool]) -> bool:
        """Whether one of the keys that a segment with slopes of its own hangs on is moved elsewhere."""
        return any(0 <= at < len(self.frames) and moved(at) for at in (i - 1, i, i + 1, i + 2))


def carried(curve: Curve, timing: TimeMap) -> Curve:
    """The curve with its keys where the map puts them. Raises EditError where what repeats would need too many keys."""
    if len(timing.pieces) == 1 or len(curve.keys) == 1:
        return curve.replace(keys=tuple(_moved(key, timing.at(key.frame), timing) for key in curve.keys))
    budget.check()
    course = _Course(_unfolded(_written_out(curve, timing.reach), timing.cuts))
    keys: list[Key] = []
    made_last, shorter = False, _nothing
    for piece, start, stop in timing.parts():
        if piece.factor == 0.0:
            continue

        def part(until: float, start: float = start, piece: Piece = piece) -> _Part:
            found = course.part(start, until, timing.takes_out)
            moved = [_scaled(key, piece.at(key.frame), piece.factor) for key in found.keys]
            return _Part(moved, found.made_first, found.made_last)

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
    """A curve cut at both ends of a stretch, each part by keys of its own: cubics are free, with both handles. before,
    after: up to and from the very ends; or a little less, where the course is to jump there.
    """

    before: list[Key]
    before_jump: list[Key]
    inside: list[Key]
    after: list[Key]
    after_jump: list[Key]


def cut_out(curve: Curve, first: float, last: float, reach: tuple[float, float]) -> Cut:
    """A curve cut at both ends of a stretch. reach: first and last frame of the shot."""
    ends = [first, last, last + JUMP_FRAMES]
    whole = _Course(all_free(_unfolded(_written_out(curve, reach), ends)))

    def part(start: float, stop: float) -> list[Key]:
        """With a key at each end that is somewhere."""
        keys = list(whole.part(start, stop, lambda _: False).keys)
        if start > -math.inf and (not keys or keys[0].frame - start > LEAST_GAP_FRAMES):
            keys.insert(0, Key(frame=start, value=_value(curve, start), interp=_straight(whole, start)))
        if stop < math.inf and (not keys or stop - keys[-1].frame > LEAST_GAP_FRAMES):
            if keys and stop > whole.frames[-1]:
                keys[-1] = _with(keys[-1], interp=_straight(whole, stop))
            keys.append(Key(frame=stop, value=_value(curve, stop), interp=_straight(whole, stop)))
        apart = [after.frame - key.frame > LEAST_GAP_FRAMES for key, after in pairwise(keys)]
        return [key for key, stays in zip(keys, [*apart, True], strict=True) if stays]

    inside = part(first, last)
    # What is held up to a key at the end has that key's own value there.
    inside[-1] = inside[-1].replace(value=_value(curve, last))
    return Cut(
        part(-math.inf, first), part(-math.inf, first - JUMP_FRAMES), inside,
        part(last, math.inf), part(last + JUMP_FRAMES, math.inf),
    )  # fmt: skip


def all_free(curve: Curve) -> Curve:
    """The same course with every cubic segment free, by handles."""
    course = _Course(curve)
    return curve.replace(keys=tuple(course._frozen(i, lambda _: True) for i in range(len(curve.keys))))


def _straight(course: _Course, frame: float) -> Interp:
    """How a curve runs outside of its keys, once what repeats is written out."""
    outside = course.curve.before if frame < course.frames[0] else course.curve.after
    return "linear" if outside == "continue" else "hold"


def _nothing() -> list[Key]:
    return []


def _join(keys: list[Key], more: list[Key], shorter: Callable[[], list[Key]]) -> None:
    """Puts a part behind those before it: held over a hole, met, or jumping. shorter: keys of the part before that ends
    a little earlier.
    """
    if not keys or not more:
        keys.extend(more)
        return
    last, first = keys[-1], more[0]
    if first.frame - last.frame > JUMP_FRAMES:
        keys[-1] = _with(last, interp="hold")
        keys.extend(more)
    elif alike(last.value, first.value) or (len(keys) > 1 and keys[-2].interp == "hold"):
        keys[-1] = _with(first, handle_in=last.handle_in)
        keys.extend(more[1:])
    else:
        _end_early(keys, shorter())
        keys.extend(more)


def alike(one: float, other: float) -> bool:
    """Whether values are the same but for their last digits."""
    return abs(one - other) <= _SAME * max(1.0, abs(one), abs(other))


def _end_early(keys: list[Key], short: list[Key]) -> None:
    """Ends a course a little before its end, and holds until there."""
    end = short[-1]
    while keys and keys[-1].frame >= end.frame:
        keys.pop()
    if keys and len(short) > 1:
        keys[-1] = _with(keys[-1], handle_out=short[-2].handle_out, interp=short[-2].interp)
    keys.append(_with(end, interp="hold"))


def _run_through(keys: list[Key], more: _Part, made_last: bool) -> None:
    """The segment that was cut goes on through the hole with the slopes that it had at both of its ends: keys that were
    made at the cut are none.
    """
    ended = keys.pop() if made_last and len(keys) > 1 else None
    after = more.keys[1:] if more.made_first and len(more.keys) > 1 else more.keys
    last, first = keys[-1], after[0]
    if last.interp == "free":
        gap = first.frame - last.frame
        out, into = last.handle_out, first.handle_in or (ended.handle_in if ended else None)
        assert out is not None and into is not None, "both are ends of a cubic"
        keys[-1] = _with(last, handle_out=_reaching(out, gap / 3.0))
        first = _with(first, handle_in=_reaching(into, -gap / 3.0))
    keys.extend([first, *after[1:]])


def _reaching(handle: Handle, reach: float) -> Handle:
    """A handle of the same slope that reaches as far as that."""
    return (reach, handle[1] * reach / handle[0]) if handle[0] else (reach, 0.0)


def _written_out(curve: Curve, reach: tuple[float, float]) -> Curve:
    """The curve with keys over a reach of frames in place of how it goes on outside of its own."""
    first, last = curve.keys[0].frame, curve.keys[-1].frame
    low, high = min(reach[0] - 1.0, first), max(reach[1] + 2.0, last)
    on_before, on_after = curve.before != "hold" and low < first, curve.after != "hold" and high > last
    if not (on_before or on_after):
        return curve
    course = _Course(curve)
    every = [course._frozen(i, lambda _: True) for i in range(len(curve.keys))]
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
    once = _unfolded(curve.replace(keys=tuple(every), before="hold", after="hold"), [last])
    round_, every = _Course(once), list(once.keys)

    def shorter(n: int) -> list[Key]:
        short = round_.part(first, last - JUMP_FRAMES, lambda _: False).keys
        return [_with(key, frame=key.frame + n * period) for key in short]

    for n in range(-back, on + 1):
        _join(keys, [_with(key, frame=key.frame + n * period) for key in every], lambda n=n: shorter(n - 1))  # type: ignore[misc]
    if on_before and curve.before == "continue":
        keys.insert(0, Key(frame=low, value=_value(curve, low), interp="linear"))
    if on_after and curve.after == "continue":
        keys[-1] = _with(keys[-1], interp="linear")
        keys.append(Key(frame=high, value=_value(curve, high), interp="linear"))
    return curve.replace(
        keys=tuple(keys),
        before="hold" if curve.before == "repeat" else curve.before,
        after="hold" if curve.after == "repeat" else curve.after,
    )


def _unfolded(curve: Curve, cuts: list[float]) -> Curve:
    """The same course with a further key in segments that are cut there, or just before it, and whose handles reach
    past each other: in the middle of the fold, so that handles stay within the parts of it.
    """
    course = _Course(curve)
    frames = [*cuts, *(cut - JUMP_FRAMES for cut in cuts)]
    folds = [i for frame in frames if (i := course.segment(frame)) is not None and folded(course.cubic(i))]
    if not folds:
        return curve
    keys = [course._frozen(i, lambda _: True) for i in range(len(curve.keys))]
    for i in sorted(set(folds), reverse=True):
        first, second = halves(course.cubic(i), middle_of_fold(course.cubic(i)))
        frame, value = second[0]
        between = Key(
            frame=frame, value=value, interp="free",
            handle_in=handle_to(first[3], first[2]), handle_out=handle_to(second[0], second[1]),
        )  # fmt: skip
        out, into = handle_to(first[0], first[1]), handle_to(second[3], second[2])
        keys[i : i + 2] = [_with(keys[i], handle_out=out), between, _with(keys[i + 1], handle_in=into)]
    return curve.replace(keys=tuple(keys))


def _value(curve: Curve, frame: float) -> float:
    return float(curve.sample(np.array([frame]))[0])


def _with(
    key: Key,
    frame: float | None = None,
    interp: Interp | None = None,
    handle_in: Handle | None = None,
    handle_out: Handle | None = None,
) -> Key:
    """A key with what is given; as `replace`, at a third of its cost."""
    return Key(
        frame=key.frame if frame is None else frame,
        value=key.value,
        interp=interp or key.interp,
        handle_in=handle_in or key.handle_in,
        handle_out=handle_out or key.handle_out,
    )


def _moved(key: Key, frame: float, timing: TimeMap) -> Key:
    return _scaled(key, frame, timing.pieces[0].factor)


def _between(left: Key, right: Key, frame: float) -> float:
    """On the straight line from one key to the next."""
    return left.value + (right.value - left.value) * (frame - left.frame) / (right.frame - left.frame)


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


def limited(curve: Curve, least: float, most: float) -> Curve:
    """Return a curve whose keys are all within limits, and which clamped to them has the course of the curve.

    It is cut where it crosses a limit; what lies beyond is held at the limit.
    """
    values = curve.arrays.values
    if values.min() >= least and values.max() <= most:
        return curve
    if len(curve.keys) == 1:
        return curve.replace(keys=(curve.keys[0].moved(curve.keys[0].frame, float(np.clip(values[0], least, most))),))
    edges = [curve.keys[0].frame, *_crossings(curve, least, most), curve.keys[-1].frame]
    course = _Course(all_free(_unfolded(curve, edges[1:-1])))
    keys: list[Key] = []
    for start, stop in pairwise(edges):
        beyond = _beyond(_value(curve, 0.5 * (start + stop)), least, most)
        into = keys.pop().handle_in if keys and keys[-1].frame == start else None
        if beyond is not None:
            keys.append(Key(frame=start, value=beyond, interp="hold", handle_in=into))
            continue
        part = course.part(start, stop, lambda _: False).keys
        if part[-1].frame < stop:
            part.append(Key(frame=stop, value=_value(curve, stop)))
        part[0] = _with(part[0], handle_in=into)
        keys += [key.moved(key.frame, min(max(key.value, least), most)) for key in part]
    if keys[-1].frame < edges[-1]:
        keys.append(Key(frame=edges[-1], value=keys[-1].value))
    return curve.replace(keys=tuple(keys))


def _beyond(value: float, least: float, most: float) -> float | None:
    """The limit that a value lies beyond, if it does."""
    return least if value < least else most if value > most else None


def _crossings(curve: Curve, least: float, most: float) -> list[float]:
    """Frames between the first and the last key at which a curve crosses one of two limits."""
    frames = curve.arrays.frames
    looked = np.unique(np.concatenate([np.linspace(a, b, _LOOKS_A_SEGMENT) for a, b in pairwise(frames)]))
    found: list[float] = []
    for limit in (least, most):
        if not math.isfinite(limit):
            continue
        side = curve.sample(looked) > limit if limit == most else curve.sample(looked) < limit
        for n in np.flatnonzero(side[1:] != side[:-1]):
            low, high, first = float(looked[n]), float(looked[n + 1]), bool(side[n])
            for _ in range(_HALVINGS):
                middle = 0.5 * (low + high)
                value = _value(curve, middle)
                beyond = value > limit if limit == most else value < limit
                low, high = (middle, high) if beyond == first else (low, middle)
            found.append(high)
    # One beside a key is at the key: there it may jump.
    nearest = (float(frames[np.argmin(np.abs(frames - frame))]) for frame in found)
    placed = sorted(key if abs(key - frame) < _APART else frame for frame, key in zip(found, nearest, strict=True))
    inside = [frame for frame in placed if frames[0] < frame < frames[-1]]
    return [frame for n, frame in enumerate(inside) if n == 0 or frame - inside[n - 1] > _APART]
