"""Approximation of a function of time by a keyed number with few keys.

Each segment between two keys is a cubic with free handles. It meets the function at both ends and has its integral, so
a phase that is integrated from the number does not drift. The remaining coefficient is a least-squares fit.
Segments are halved where the fit is too far off and joined where one cubic is close enough for two.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from zittern.core.errors import DocumentError
from zittern.core.numbers.curves import MOST_FRAME, MOST_KEYS, Curve, Key
from zittern.core.numbers.param import Number, fixed, on_curve
from zittern.core.runtime import budget
from zittern.core.units import Array, BoolArray

__all__ = ["TOLERANCE", "approximated"]

# Largest error, as a part of the largest value.
TOLERANCE = 2e-5
# Length of the first segments, so that no periodic motion is missed between samples; see `_first_edges`.
_CELL_FRAMES = 4.0
_MAX_FIRST_CELLS = 50_000
# A segment this short that still does not fit is a jump.
_SHORTEST_FRAMES = 2e-3
# One-sided limits are taken this far from a break; a jump is written as two keys this far apart.
_SIDE_FRAMES, _JUMP_FRAMES = 1e-8, 2e-6
# Handles that deviate from the straight line by less than this part of the largest value are left out.
_STRAIGHT = 1e-9
_THIRD = 1.0 / 3.0

# Sample points in both halves of a segment: Gauss-Legendre, exact to degree 7 in each half.
_NODES, _WEIGHTS = np.polynomial.legendre.leggauss(4)
_POINTS = np.concatenate([0.25 * (1.0 + _NODES), 0.5 + 0.25 * (1.0 + _NODES)])
_AREA = np.concatenate([_WEIGHTS, _WEIGHTS]) / 4.0
_B0, _B1 = (1.0 - _POINTS) ** 3, 3.0 * (1.0 - _POINTS) ** 2 * _POINTS
_B2, _B3 = 3.0 * (1.0 - _POINTS) * _POINTS**2, _POINTS**3
_SKEW = _B1 - _B2


@dataclass(frozen=True, slots=True)
class _Cubics:
    """Bernstein cubics.

    start, stop: (N,) frames. ends: (N, 2) first and last value. inner: (N, 2) control values between them. error: (N,)
    largest distance from the function at the sample points.
    """

    start: Array
    stop: Array
    ends: Array
    inner: Array
    error: Array

    def rows(self, which: BoolArray) -> _Cubics:
        return _Cubics(*(getattr(self, name)[which] for name in _FIELDS))


_FIELDS = ("start", "stop", "ends", "inner", "error")


def approximated(
    function: Callable[[Array], Array], breaks: Array, reach: tuple[float, float], limits: tuple[float, float]
) -> Number:
    """Return a number that follows a function over a range of frames, also between frames.

    Raises DocumentError when that takes more keys than a curve may have.

    Parameters
    ----------
    function : (F,) frames -> (F,) values.
    breaks : (K,) frames at which the function or its slope may jump.
    reach : first and last frame of the range. Outside it the number keeps its first and last value.
    limits : smallest and largest value of a key.

    Returns
    -------
    A number that deviates from the function by up to TOLERANCE times its largest value.
    """
    first, last = max(reach[0], -MOST_FRAME), min(reach[1], MOST_FRAME)
    inner = np.unique(breaks[(breaks > first + 2.0 * _JUMP_FRAMES) & (breaks < last - 2.0 * _JUMP_FRAMES)])
    corners = np.concatenate([[first], inner, [last]])
    corners = corners[np.concatenate([[True], np.diff(corners) > 2.0 * _JUMP_FRAMES])]
    edges = _first_edges(corners, last - first)
    cubics = _fitted(function, edges[:-1], edges[1:], corners)
    scale = max(float(np.max(np.abs(cubics.ends))), float(np.max(np.abs(cubics.inner))))
    if np.ptp(cubics.ends) <= 1e-12 * scale and np.all(cubics.error <= 1e-12 * scale):
        return fixed(float(np.clip(cubics.ends[0, 0], *limits)))
    cubics = _refined(function, cubics, corners, TOLERANCE * scale)
    cubics = _merged(function, cubics, corners, TOLERANCE * scale)
    return on_curve(Curve(keys=_keys(cubics, scale, limits)))


def _first_edges(corners: Array, length: float) -> Array:
    """Edges of the first segments.

    Each stretch between corners is cut into a power of two, which can be joined again pair by pair. (N + 1,).
    """
    cell = max(_CELL_FRAMES, length / _MAX_FIRST_CELLS)
    counts = 2 ** np.ceil(np.log2(np.maximum(np.diff(corners) / cell, 1.0))).astype(np.int64)
    parts = [
        np.linspace(start, stop, count, endpoint=False)
        for start, stop, count in zip(corners[:-1], corners[1:], counts, strict=True)
    ]
    return np.concatenate([*parts, corners[-1:]])


def _fitted(function: Callable[[Array], Array], start: Array, stop: Array, corners: Array) -> _Cubics:
    """Fit one cubic to each segment. (N,), (N,)."""
    width = stop - start
    low = np.where(np.isin(start, corners), start + _SIDE_FRAMES, start)
    high = np.where(np.isin(stop, corners), stop - _SIDE_FRAMES, stop)
    points = start[:, None] + width[:, None] * _POINTS
    frames = np.concatenate([low[:, None], points, high[:, None]], axis=1)
    values = np.concatenate([function(each) for each in np.array_split(frames.ravel(), 1 + frames.size // 400_000)])
    values = values.reshape(frames.shape)
    ends, inside = values[:, [0, -1]], values[:, 1:-1]
    # The mean of a Bernstein cubic is the mean of its four coefficients.
    middle = 0.5 * (4.0 * (inside @ _AREA) - ends[:, 0] - ends[:, 1])
    rest = inside - ends[:, :1] * _B0 - ends[:, 1:] * _B3 - middle[:, None] * (_B1 + _B2)
    skew = rest @ _SKEW / (_SKEW @ _SKEW)
    error = np.max(np.abs(rest - skew[:, None] * _SKEW), axis=1)
    return _Cubics(start, stop, ends, np.stack([middle + skew, middle - skew], axis=1), error)


def _joined_cubics(*parts: _Cubics) -> _Cubics:
    """Cubics in order of time."""
    columns = [np.concatenate([getattr(part, name) for part in parts]) for name in _FIELDS]
    order = np.argsort(columns[0], kind="stable")
    return _Cubics(*(column[order] for column in columns))


def _refined(function: Callable[[Array], Array], cubics: _Cubics, corners: Array, tolerance: float) -> _Cubics:
    """Halve segments until each is close enough, or so short that only a jump can be in it."""
    done, open_ = [], cubics
    while len(open_.start):
        budget.check()
        bad = (open_.error > tolerance) & (open_.stop - open_.start > _SHORTEST_FRAMES)
        done.append(open_.rows(~bad))
        open_ = open_.rows(bad)
        if sum(len(part.start) for part in done) + 2 * len(open_.start) > MOST_KEYS:
            raise DocumentError(
                f"expected a motion that {MOST_KEYS} keys can follow, found one that needs more; shorten the shot, or "
                f"replace fast formulas by fixed numbers"
            )
        middle = 0.5 * (open_.start + open_.stop)
        if len(middle):
            open_ = _fitted(
                function, np.concatenate([open_.start, middle]), np.concatenate([middle, open_.stop]), corners
            )
    return _joined_cubics(*done)


def _merged(function: Callable[[Array], Array], cubics: _Cubics, corners: Array, tolerance: float) -> _Cubics:
    """Join halves of one segment wherever one cubic is close enough for both."""
    stretch_start = corners[np.searchsorted(corners, cubics.start, side="right") - 1]
    while len(cubics.start) > 1:
        budget.check()
        width = cubics.stop - cubics.start
        same = np.isclose(width[1:], width[:-1], rtol=1e-6, atol=0.0) & (stretch_start[1:] == stretch_start[:-1])
        place = np.rint((cubics.start - stretch_start) / width).astype(np.int64)
        left = np.flatnonzero(same & (place[:-1] % 2 == 0))
        if not len(left):
            break
        pairs = _fitted(function, cubics.start[left], cubics.stop[left + 1], corners)
        good = pairs.error <= tolerance
        if not np.any(good):
            break
        gone = np.zeros(len(width), dtype=bool)
        gone[left[good]] = gone[left[good] + 1] = True
        cubics = _joined_cubics(cubics.rows(~gone), pairs.rows(good))
        stretch_start = corners[np.searchsorted(corners, cubics.start, side="right") - 1]
    return cubics


def _keys(cubics: _Cubics, scale: float, limits: tuple[float, float]) -> tuple[Key, ...]:
    """Keys of a chain of cubics. Where two do not meet, two keys side by side make the jump."""
    width = cubics.stop - cubics.start
    ends = np.clip(cubics.ends, *limits)
    rise = ends[:, 1] - ends[:, 0]
    reach = np.stack([cubics.inner[:, 0] - ends[:, 0], cubics.inner[:, 1] - ends[:, 1]], axis=1)
    straight = np.all(np.abs(reach - np.stack([rise, -rise], axis=1) * _THIRD) <= _STRAIGHT * scale, axis=1)
    meets = np.abs(ends[1:, 0] - ends[:-1, 1]) <= TOLERANCE * scale
    slope = rise / width
    goes_on = straight[1:] & straight[:-1] & meets & (np.abs(np.diff(slope)) * width[1:] <= _STRAIGHT * scale)
    keys: list[Key] = []
    arriving = None
    for n, start in enumerate(cubics.start):
        if n and not meets[n - 1]:
            keys.append(Key(frame=start - _JUMP_FRAMES, value=ends[n - 1, 1], interp="linear", handle_in=arriving))
            arriving = None
        third = width[n] * _THIRD
        if not (n and goes_on[n - 1]):
            kind, out = ("linear", None) if straight[n] else ("free", (third, reach[n, 0]))
            keys.append(Key(frame=start, value=ends[n, 0], interp=kind, handle_in=arriving, handle_out=out))  # type: ignore[arg-type]
        arriving = None if straight[n] else (-third, float(reach[n, 1]))
    keys.append(Key(frame=cubics.stop[-1], value=ends[-1, 1], interp="linear", handle_in=arriving))
    return tuple(keys)
