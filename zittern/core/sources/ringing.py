"""Ringing: sums of damped oscillations that start at given moments, and moments in a rhythm."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator

import numpy as np

from zittern.core.numbers.param import Number
from zittern.core.runtime import budget
from zittern.core.sources.source import Inputs
from zittern.core.units import Array, IntArray

__all__ = ["HEARD_DECAYS", "MOST_A_FRAME", "beats", "beats_told", "first_peak", "ringing"]

# Responses below this share are omitted; expressed in multiples of 1/σ after the start.
_LEAST = 1e-9
HEARD_DECAYS = -math.log(_LEAST)
# Rows times moments worked on at a time.
_AT_ONCE = 200_000
_LONG_ROWS = 64
# No beats are generated in frames with more than this many: they would be invisible.
MOST_A_FRAME = 8.0
# A larger number of beats per frame is not shown exactly.
_MOST_TOLD = 1000.0
_ROUNDING = 1e-9


def first_peak(ring_hz: Array, sigma: Array) -> Array:
    """Height of the first peak of exp(-σ s) sin(ω s): exp(-σ s*) ω / √(ω² + σ²) at s* = atan(ω/σ) / ω.

    Parameters
    ----------
    ring_hz : (N,) float64, Hz.
    sigma: (N,) per second.

    Returns
    -------
    (N,) float64, dimensionless.
    """
    omega = 2.0 * np.pi * ring_hz
    top = np.arctan2(omega, sigma) / omega
    return np.asarray(np.exp(-sigma * top) * omega / np.hypot(omega, sigma), dtype=np.float64)


def beats_told(a_frame: float) -> str:
    """Return the notice for more beats per frame than are generated.

    >>> beats_told(12.5), beats_told(4e5)
    ('12.5 beats', 'more than 1000 beats')
    """
    return f"{a_frame:.4g} beats" if a_frame <= _MOST_TOLD else f"more than {_MOST_TOLD:.0f} beats"


def beats(
    inputs: Inputs,
    rate: Number,
    before_frames: float,
    after_frames: float,
    early: Callable[[Array], Array] | None = None,
    start: float = 0.0,
    between: bool = False,
) -> tuple[IntArray, Array]:
    """Return the moments where the integral of a rate from the start reaches whole numbers.

    Within reach of the requested frames. early: lead of each beat, as a share of one. start: initial value of the
    integral. (H,) numbers, (H,) frames. Only those within reach of a requested frame are generated, or all between the
    first of them and the last, and none in frames with more than MOST_A_FRAME: they would be invisible.
    """
    frames, first = inputs.scope.frames, inputs.start_frame
    # From whole frame to whole frame after the start: the same wherever one begins to look.
    earliest, latest = (float(frames.min()), float(frames.max())) if len(frames) else (first, first)
    low = max(0.0, np.floor(earliest - first - before_frames))
    high = max(low, np.ceil(latest - first + after_frames)) + 1.0
    grid = first + np.arange(low, high + 1.0)
    reached = inputs.beat_at(rate, grid) + start
    stretches = [slice(0, len(grid))] if between else _stretches_near(grid, frames, before_frames, after_frames)
    found = [
        _beats_in(grid[rows], reached[rows], early) for heard in stretches for rows in _slow_enough(reached, heard)
    ]
    none = np.empty(0, dtype=np.int64), np.empty(0)
    return np.concatenate([numbers for numbers, _ in (*found, none)]), np.concatenate([at for _, at in (*found, none)])


def _stretches_near(grid: Array, frames: Array, before_frames: float, after_frames: float) -> list[slice]:
    """Return ranges of a grid of whole frames before and after some frames.

    In order, with no point in two of them.
    """
    rising = np.unique(frames) if len(frames) else grid[:1]
    first = np.maximum(np.searchsorted(grid, rising - before_frames, side="right") - 1, 0)
    stop = np.minimum(np.searchsorted(grid, rising + after_frames, side="left") + 2, len(grid))
    apart = np.flatnonzero(first[1:] >= np.maximum.accumulate(stop)[:-1]) + 1
    starts, ends = np.concatenate([[0], apart]), np.concatenate([apart, [len(rising)]])
    reach = np.maximum.accumulate(stop)
    return [slice(int(first[a]), int(reach[b - 1])) for a, b in zip(starts, ends, strict=True)]


def _slow_enough(reached: Array, rows: slice) -> Iterator[slice]:
    """Yield the parts of a range of a grid without the frames in which beats are too fast."""
    fast = np.flatnonzero(np.diff(reached[rows]) > MOST_A_FRAME) + rows.start
    for first, last in zip([rows.start, *(fast + 1).tolist()], [*fast.tolist(), rows.stop - 1], strict=True):
        if last > first:
            yield slice(first, last + 1)


def _beats_in(grid: Array, reached: Array, early: Callable[[Array], Array] | None) -> tuple[IntArray, Array]:
    """Beats from the first point of a stretch to its last."""
    numbers = np.arange(np.ceil(reached[0] - 1.0), np.floor(reached[-1] + 1.0) + 1.0)
    due = numbers if early is None else numbers - early(numbers)
    among = (due >= reached[0] - _ROUNDING) & (due <= reached[-1])
    return numbers[among].astype(np.int64), np.interp(due[among], reached, grid)


def ringing(inputs: Inputs, ring_hz: Number, arrivals: Array, sizes: Array, sigma: Array) -> Array:
    """Sum over moments of sizes · exp(-σ s) sin(2π φ(s)), φ the integral of the ring frequency since each arrived.

    Parameters
    ----------
    arrivals: (H,) frames.
    sizes : (H, A) float64, sizes of the hits, dimensionless.
    sigma : (H,) float64, decay rates, 1/s.

    Returns
    -------
    (F, A) float64, dimensionless.
    """
    frames, fps = inputs.scope.frames, inputs.scope.fps.value
    order = np.argsort(frames, kind="stable")
    rising = frames[order]
    phase, started = inputs.phase(ring_hz)[order], inputs.phase_at(ring_hz, arrivals)
    first = np.searchsorted(rising, arrivals)
    stop = np.searchsorted(rising, arrivals + HEARD_DECAYS / sigma * fps)
    out = np.zeros((len(frames), sizes.shape[1]))
    counts = np.maximum(stop - first, 0)
    long = np.flatnonzero(counts >= _LONG_ROWS)
    for n in long.tolist():  # few rows, each long: a loop is faster than one broadcast
        budget.check()
        rows = slice(first[n], stop[n])
        envelope = np.exp(-sigma[n] / fps * (rising[rows] - arrivals[n]))
        out[rows] += sizes[n] * envelope[:, None] * np.sin(2.0 * np.pi * (phase[rows] - started[n]))
    counts[long] = 0
    for part in _hit_batches(counts):
        budget.check()
        hit = np.repeat(part, counts[part])
        row = np.arange(len(hit)) - np.repeat(np.cumsum(counts[part]) - counts[part], counts[part]) + first[hit]
        seconds = (rising[row] - arrivals[hit]) / fps
        values = sizes[hit] * np.exp(-sigma[hit] * seconds)[:, None] * np.sin(2.0 * np.pi * (phase[row] - started[hit]))
        np.add.at(out, row, values)
    back = np.empty_like(out)
    back[order] = out
    return back


def _hit_batches(counts: IntArray) -> list[IntArray]:
    """Numbers of hits, some at a time, so that their rows fit into memory."""
    total = np.cumsum(counts)
    if not len(total) or total[-1] == 0:
        return []
    edges = np.searchsorted(total, np.arange(_AT_ONCE, total[-1] + _AT_ONCE, _AT_ONCE))
    bounds = np.unique(np.concatenate([[0], np.minimum(edges + 1, len(counts))]))
    return [np.arange(low, high) for low, high in zip(bounds[:-1], bounds[1:], strict=True)]
