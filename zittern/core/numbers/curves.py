"""The document of a keyed curve, and its value at any frame."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable, Iterator
from functools import cached_property
from typing import Annotated, Literal, NamedTuple, Self, get_args

import numpy as np
from pydantic import Field, model_validator

from zittern.core.documents.doc import Doc, digest
from zittern.core.documents.timemarks import AT, BACK, REACH
from zittern.core.numbers import interpolate
from zittern.core.units import Array, IntArray

__all__ = ["MOST_FRAME", "MOST_VALUE", "Curve", "Extend", "Frame", "Handle", "Interp", "Key"]

Interp = Literal["hold", "linear", "smooth", "free"]
Extend = Literal["hold", "continue", "repeat"]
_INTERPS = get_args(Interp)

MOST_KEYS = 200_000
# Frames further out than any shot reaches, and values that still leave room to calculate with.
MOST_FRAME = 1e7
MOST_VALUE = 1e12
# Closer keys cannot be separated, and slopes between them are not finite.
LEAST_GAP_FRAMES = 1e-6
# A change between closer keys is a jump.
STEEP_FRAMES = 1e-2
# Number of repetitions of a curve for which jumps are returned.
MOST_REPEATS = 2_000
# A missing handle extends to a third of the distance to the next key, as in the Bezier form of a Hermite segment.
_THIRD = 1.0 / 3.0


Frame = Annotated[float, Field(ge=-MOST_FRAME, le=MOST_FRAME)]
_Value = Annotated[float, Field(ge=-MOST_VALUE, le=MOST_VALUE)]
Handle = tuple[Frame, _Value]


class Key(Doc):
    """A value at a frame. `interp` is the interpolation from this key to the next.

    A handle is (frames, value) relative to the key; the one before it reaches back (frames <= 0).
    """

    frame: Annotated[Frame, AT]
    value: _Value
    interp: Interp = "smooth"
    handle_in: Annotated[Handle | None, BACK] = None
    handle_out: Annotated[Handle | None, REACH] = None

    def moved(self, frame: float, value: float) -> Key:
        """Return the key at another position. As `replace`, at a third of its cost: there may be many keys."""
        return Key(frame=frame, value=value, interp=self.interp, handle_in=self.handle_in, handle_out=self.handle_out)


class _Arrays(NamedTuple):
    """Keys as arrays, each (K,). kinds: places in _INTERPS."""

    frames: Array
    values: Array
    kinds: IntArray


class Curve(Doc):
    """Keys in order of frame; `before` and `after` are the extensions outside them."""

    keys: tuple[Key, ...] = Field(min_length=1, max_length=MOST_KEYS)
    before: Extend = "hold"
    after: Extend = "hold"

    @model_validator(mode="after")
    def _ordered(self) -> Self:
        frames = self.arrays.frames
        back = np.flatnonzero(np.diff(frames) < LEAST_GAP_FRAMES)
        if back.size:
            i = int(back[0]) + 1
            raise ValueError(
                f"keys must ascend, one per frame; keys[{i}] is at frame {frames[i]:g} after frame {frames[i - 1]:g}"
            )
        return self

    @classmethod
    def of(cls, points: Iterable[tuple[float, float]], interp: Interp = "smooth") -> Curve:
        """Return a curve from (frame, value) pairs."""
        return cls(keys=tuple(Key(frame=f, value=v, interp=interp) for f, v in points))

    def mapped(self, change: Callable[[float], float]) -> Curve:
        """Return the curve with the value of every key changed, and what its handles reach."""

        def handle(key: Key, reach: Handle | None) -> Handle | None:
            return reach and (reach[0], change(key.value + reach[1]) - change(key.value))

        def changed(key: Key) -> Key:
            ends = {"handle_in": handle(key, key.handle_in), "handle_out": handle(key, key.handle_out)}
            return Key(frame=key.frame, value=change(key.value), interp=key.interp, **ends)

        return self.replace(keys=tuple(map(changed, self.keys)))

    @cached_property
    def motion_key(self) -> str:
        """Hash of keys and ends. All keys are computed together: there may be very many."""
        return digest(self.model_dump_json())

    @cached_property
    def arrays(self) -> _Arrays:
        """The keys as arrays."""
        frames = np.array([key.frame for key in self.keys], dtype=np.float64)
        values = np.array([key.value for key in self.keys], dtype=np.float64)
        return _Arrays(frames, values, np.array([_INTERPS.index(key.interp) for key in self.keys]))

    def sample(self, frames: Array) -> Array:
        """Value at each frame, fractional frames too.

        Parameters
        ----------
        frames : (F,) float64, frame numbers.

        Returns
        -------
        (F,) in the unit of the values.
        """
        frames = np.asarray(frames, dtype=np.float64)
        if len(self.keys) == 1:
            return np.full(frames.shape, self.keys[0].value)
        key_frames = self.arrays.frames
        inside = self._inside(self._folded(frames))
        inside = self._continued(frames, frames < key_frames[0], self.before, 0, inside)
        return self._continued(frames, frames > key_frames[-1], self.after, -1, inside)

    def jumps(self, reach: tuple[float, float]) -> Array:
        """Return the jumps within a range of frames.

        At the end of held segments, between keys at one frame, at the seam of repetitions.

        Returns
        -------
        (J, 2): the last frame before, the first after.
        """
        frames, values, kinds = self.arrays
        gaps, rises = np.diff(frames), np.diff(values)
        at = np.flatnonzero((rises != 0.0) & ((kinds[:-1] == _INTERPS.index("hold")) | (gaps < STEEP_FRAMES)))
        before = np.where(gaps[at] < STEEP_FRAMES, frames[at], frames[at + 1] - LEAST_GAP_FRAMES)
        pairs = np.stack([before, frames[at + 1]], axis=1)
        return np.concatenate([pairs, *self._repeated(pairs, reach)])

    def _repeated(self, pairs: Array, reach: tuple[float, float]) -> Iterator[Array]:
        """Return the jumps in every repetition, and the seams."""
        frames, values, _ = self.arrays
        period = frames[-1] - frames[0]
        if period <= 0.0 or "repeat" not in (self.before, self.after):
            return
        seam = (
            np.array([[frames[-1] - LEAST_GAP_FRAMES, frames[-1] + LEAST_GAP_FRAMES]])
            if values[0] != values[-1]
            else np.empty((0, 2))
        )
        low = math.floor((reach[0] - frames[0]) / period) if self.before == "repeat" else 0
        high = math.ceil((reach[1] - frames[0]) / period) if self.after == "repeat" else 0
        for n in range(max(low, -MOST_REPEATS), min(high, MOST_REPEATS)):
            yield seam + n * period
            if n != 0:
                yield pairs + n * period

    def _folded(self, frames: Array) -> Array:
        """Frames brought between the first and the last key: held, or wrapped where the curve repeats."""
        first, last = self.arrays.frames[0], self.arrays.frames[-1]
        folded = np.clip(frames, first, last)
        if "repeat" not in (self.before, self.after):
            return folded
        wrapped = first + np.mod(frames - first, last - first)
        if self.before == "repeat":
            folded = np.where(frames < first, wrapped, folded)
        if self.after == "repeat":
            folded = np.where(frames > last, wrapped, folded)
        return folded

    def _continued(self, frames: Array, outside: Array, extend: Extend, end: int, values: Array) -> Array:
        if extend != "continue" or not np.any(outside):
            return values
        straight = self.arrays.values[end] + self._end_slope(end) * (frames - self.arrays.frames[end])
        return np.where(outside, straight, values)

    def _end_slope(self, end: int) -> float:
        """Slope per frame at the first (0) or last (-1) key."""
        kind = self.keys[0 if end == 0 else -2].interp
        frames, values, _ = self.arrays
        i, j = (0, 1) if end == 0 else (-2, -1)
        if kind == "smooth":
            return float(self._slopes[end])
        if kind == "linear":
            return float((values[j] - values[i]) / (frames[j] - frames[i]))
        if kind == "free":
            handle = self.keys[0].handle_out if end == 0 else self.keys[-1].handle_in
            return handle[1] / handle[0] if handle is not None and handle[0] else float(self._slopes[end])
        return 0.0

    @cached_property
    def _slopes(self) -> Array:
        """Slope per frame of the smooth curve at each key. (K,). Repeating curves meet themselves with one slope."""
        frames, values, _ = self.arrays
        if "repeat" in (self.before, self.after) and values[0] == values[-1] and len(frames) > 2:
            period = frames[-1] - frames[0]
            around = np.concatenate(([frames[-2] - period], frames, [frames[1] + period]))
            wrapped = np.concatenate(([values[-2]], values, [values[1]]))
            return interpolate.smooth_slopes(around, wrapped, False, False)[1:-1]
        return interpolate.smooth_slopes(frames, values, self.before == "hold", self.after == "hold")

    @cached_property
    def _smooth(self) -> Callable[[Array], Array]:
        """The smooth curve through all keys, (F,) frames -> (F,)."""
        frames, values, _ = self.arrays
        return interpolate.smooth_curve(frames, values, self._slopes)

    def _inside(self, frames: Array) -> Array:
        key_frames, values, kinds = self.arrays
        if np.all(kinds[:-1] == _INTERPS.index("smooth")):
            return np.where(frames >= key_frames[-1], values[-1], self._smooth(frames))
        segment = interpolate.segment_of(key_frames, frames)
        out = values[segment].astype(np.float64)
        kind_of = kinds[segment]
        linear = kind_of == 1
        if np.any(linear):
            out[linear] = np.interp(frames[linear], key_frames, values)
        smooth = kind_of == 2
        if np.any(smooth):
            out[smooth] = self._smooth(frames[smooth])
        free = kind_of == 3
        if np.any(free):
            out[free] = self._free(frames[free], segment[free])
        return np.where(frames >= key_frames[-1], values[-1], out)

    def handles(self, i: int) -> tuple[Handle | None, Handle | None]:
        """Return the handles of a key: the set ones, else those of a free segment with the same course.

        None before the first key and after the last.

        >>> Curve.of([(1, 0.0), (4, 6.0)], "linear").handles(0)
        (None, (1.0, 2.0))
        """
        return (
            self._side(i - 1, i, i) if i > 0 else None,
            self._side(i, i, i + 1) if i < len(self.keys) - 1 else None,
        )

    def _side(self, start: int, at: int, stop: int) -> Handle:
        """Return the handle at one of two adjacent keys."""
        kind, gap = self.keys[start].interp, self.keys[stop].frame - self.keys[start].frame
        given = self.keys[at].handle_out if at == start else self.keys[at].handle_in
        if kind == "free" and given is not None:
            return given
        rise = 0.0 if kind == "hold" else float(self._slopes[at]) * gap
        if kind == "linear":
            rise = self.keys[stop].value - self.keys[start].value
        return (gap * _THIRD, rise * _THIRD) if at == start else (-gap * _THIRD, -rise * _THIRD)

    @cached_property
    def _handles(self) -> tuple[Array, Array]:
        """Reach of the handles out of and into each segment, (K-1, 2): fraction of the segment, value."""
        count = len(self.keys) - 1
        leave, arrive = np.empty((count, 2)), np.empty((count, 2))
        for i in range(count):
            gap = self.keys[i + 1].frame - self.keys[i].frame
            out, into = self._side(i, i, i + 1), self._side(i, i + 1, i + 1)
            leave[i] = _clipped_handle(out[0] / gap, out[1])
            back = _clipped_handle(-into[0] / gap, into[1])
            arrive[i] = 1.0 - back[0], back[1]
        return leave, arrive

    def _free(self, frames: Array, segment: IntArray) -> Array:
        key_frames, values, _ = self.arrays
        leave, arrive = self._handles
        start, stop = key_frames[segment], key_frames[segment + 1]
        v0, v3 = values[segment], values[segment + 1]
        return interpolate.bezier_at(
            (frames - start) / (stop - start),
            leave[segment, 0],
            arrive[segment, 0],
            v0,
            v0 + leave[segment, 1],
            v3 + arrive[segment, 1],
            v3,
        )


def _clipped_handle(reach: float, rise: float) -> tuple[float, float]:
    """Return a handle that stays within its segment: one that is longer ends there, with its slope kept.

    reach: as a share of the segment.
    """
    if reach > 1.0:
        return 1.0, rise / reach
    return max(reach, 0.0), rise
