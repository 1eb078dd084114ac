"""Gradient noise, one octave or several, by the number of lattice steps.

n(x) = sum_i g_i k(x - i) with random gradients g_i in -1..1 and the kernel k(d) = d (1 - fade(|d|)), fade(u) = 6u^5 -
15u^4 + 10u^3, zero for
|d| >= 1 (Perlin 1985; fade as improved by Perlin 2002).
"""

from __future__ import annotations

import math
import threading
from collections.abc import Iterable, Iterator

import numpy as np

from zittern.core.noise import streams
from zittern.core.noise.streams import Seeds
from zittern.core.units import Array, IntArray

__all__ = ["OCTAVE_RMS", "PEAK_CYCLES_PER_STEP", "fractal", "octave"]

# Peak of |K(f)|^2, K the Fourier transform of the kernel, in cycles per lattice step (tests integrate it
# independently).
PEAK_CYCLES_PER_STEP = 0.49947525862386943
# RMS of one octave over random phase: sqrt(2/3 * integral of k(d)^2 over 0..1).
OCTAVE_RMS = math.sqrt(0.019795019795019797)
# A table of gradients is used when it is up to this many times as long as the samples requested.
_TABLE_LIMIT = 4
# Samples of each axis worked on at a time: the arrays of seven axes then stay in a processor's cache.
_CHUNK = 1024


class _Room(threading.local):
    """Arrays to work in, one set a thread: fresh memory costs more than what is done with it."""

    def __init__(self) -> None:
        self._floats = np.empty((4, 0))
        self._cells = np.empty(0, dtype=np.int64)

    def arrays(self, shape: tuple[int, ...]) -> tuple[list[Array], IntArray]:
        """Four of floats and one of whole numbers, of a shape, with anything in them."""
        size = math.prod(shape)
        if size > len(self._cells):
            self._floats = np.empty((4, size))
            self._cells = np.empty(size, dtype=np.int64)
        return [each[:size].reshape(shape) for each in self._floats], self._cells[:size].reshape(shape)


_ROOM = _Room()


def octave(steps: Array, number: int, seeds: Seeds, totals: Array | None = None) -> Array:
    """One octave, of RMS OCTAVE_RMS. number: 0 for the first, each twice as fast as the one before.

    Parameters
    ----------
    steps: (A, F) lattice steps of the first octave.
    seeds : (A,) uint64, seeds.
    totals: (A,) steps after which it repeats.

    Returns
    -------
    (A, F) float64, dimensionless, one row per seed.
    """
    periods: IntArray | None = None
    scale: Array | float = 2.0**number
    if totals is not None:
        # A whole number of steps in the loop; the rate changes by less than half a step.
        periods = np.maximum(1, np.round(totals * scale)).astype(np.int64)
        scale = np.where(totals > 0, periods / np.where(totals > 0, totals, 1.0), 0.0)[:, None]
    streams_ = streams.spawn(seeds, number)
    return _octave_at(steps * scale + streams.start(streams_, -1)[:, None], streams_, periods)


def _octave_at(x: Array, streams_: Seeds, periods: IntArray | None) -> Array:
    """At places on the lattice. (A, F) -> (A, F)."""
    floor = np.floor(x)
    u = x - floor
    left, right = _gradients(floor.astype(np.int64), streams_, periods)
    rise = left * u
    fall = right * (u - 1.0)
    fall -= rise
    fall *= _fade(u)
    rise += fall
    return rise


def fractal(steps: Array, share: Array, octaves: int, seeds: Seeds, totals: Array | None = None) -> Array:
    """Octaves, each `share` times as large as the one before, added and scaled to unit RMS.

    Parameters
    ----------
    steps : (A, F) float64
        Lattice steps of the first octave; or (1, F), of all.
    share : (F,) float64
        Persistence.
    seeds : (A,) uint64
    totals : (A,) float64, optional
        Steps after which it repeats.

    Returns
    -------
    (A, F) float64, equal to the sum of `octave`s (tested), in a third of the time: tables of all octaves in one pass,
        and reused arrays.
    """
    out = np.empty((len(seeds), steps.shape[1]))
    numbers = range(octaves)
    if totals is None:
        streams_ = streams.spawn(seeds[None, :], np.arange(octaves, dtype=np.uint64)[:, None])
        starts = streams.start(streams_.ravel(), -1).reshape(streams_.shape)
    for first in range(0, steps.shape[1], _CHUNK):
        part = slice(first, first + _CHUNK)
        here = steps[:, part]
        each = (
            _several(here, streams_, starts)
            if totals is None
            else (octave(here, number, seeds, totals) for number in numbers)
        )
        _add(each, share[part], out[:, part])
    return out


def _add(octaves: Iterable[Array], share: Array, out: Array) -> None:
    """Add octaves by their sizes into an array, scaled to unit RMS."""
    size = np.ones(share.shape)
    power = np.zeros(share.shape)
    for number, values in enumerate(octaves):
        if number == 0:
            out[:] = values
        else:
            size = size * share
            values *= size
            out += values
        power += size * size
    out /= np.sqrt(power) * OCTAVE_RMS


def _several(steps: Array, streams_: Seeds, starts: Array) -> Iterator[Array]:
    """Octaves one after another, each good until the next is asked for.

    steps: (A, F) or (1, F); streams_, starts: (O, A). Gives (A, F) each.
    """
    shape = starts.shape[1], steps.shape[1]
    if 0 in shape:
        yield from (np.zeros(shape) for _ in streams_)
        return
    lows, counts = _reach(steps, starts)
    if int(counts.max()) > _TABLE_LIMIT * steps.shape[1] + 64:
        for number, (seeds, begun) in enumerate(zip(streams_, starts, strict=True)):
            yield _octave_at(steps * 2.0**number + begun[:, None], seeds, None)
        return
    table, offsets = _tables(streams_, lows, counts)
    next_ones = table[1:]
    (x, u, left, right), cells = _ROOM.arrays(shape)
    for number, begun in enumerate(starts):
        np.add(steps * 2.0**number, begun[:, None], out=x)
        np.floor(x, out=right)
        np.subtract(x, right, out=u)
        np.copyto(cells, right, casting="unsafe")
        cells += offsets[number][:, None]
        table.take(cells, out=left, mode="clip")
        next_ones.take(cells, out=right, mode="clip")
        left *= u
        np.subtract(u, 1.0, out=x)
        right *= x
        right -= left
        right *= _fade(u, x)
        left += right
        yield left


def _reach(steps: Array, starts: Array) -> tuple[IntArray, IntArray]:
    """First cell that each octave needs on any axis, and how many. (O,), (O,)."""
    scales = 2.0 ** np.arange(len(starts))[:, None]
    low = np.floor(np.min(steps.min(axis=1) * scales + starts, axis=1)).astype(np.int64)
    high = np.floor(np.max(steps.max(axis=1) * scales + starts, axis=1)).astype(np.int64)
    return low, high - low + 2


def _tables(streams_: Seeds, lows: IntArray, counts: IntArray) -> tuple[Array, IntArray]:
    """Gradients of all octaves and axes in one row, and what has to be added to a cell's number to find it there.

    (N,), (O, A).
    """
    axes = streams_.shape[1]
    sizes = counts * axes
    begins = np.cumsum(sizes) - sizes
    offsets = begins[:, None] + np.arange(axes) * counts[:, None] - lows[:, None]
    return streams.in_a_row(streams_, lows, counts), offsets


def _fade(u: Array, out: Array | None = None) -> Array:
    """6u^5 - 15u^4 + 10u^3, by Horner's rule in place."""
    out = np.multiply(u, 6.0, out=out)
    out -= 15.0
    out *= u
    out += 10.0
    out *= u
    out *= u
    out *= u
    return out


def _gradients(cells: IntArray, seeds: Seeds, periods: IntArray | None) -> tuple[Array, Array]:
    """Gradients at both ends of the cells. cells: (A, F) -> two (A, F)."""
    if periods is not None:
        at_left = streams.at(seeds, np.mod(cells, periods[:, None]))
        return at_left, streams.at(seeds, np.mod(cells + 1, periods[:, None]))
    if cells.size == 0:
        return np.zeros(cells.shape), np.zeros(cells.shape)
    low = int(cells.min())
    count = int(cells.max()) - low + 2
    if count > _TABLE_LIMIT * cells.shape[1] + 64:
        return streams.at(seeds, cells), streams.at(seeds, cells + 1)
    table = streams.at(seeds, np.arange(low, low + count, dtype=np.int64)).ravel()
    at = cells + (np.arange(len(seeds), dtype=np.int64) * count - low)[:, None]
    return table.take(at), table.take(at + 1)
