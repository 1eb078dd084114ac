"""One octave of gradient noise, by how many steps of its lattice have gone by.

n(x) = sum_i g_i k(x - i) with random gradients g_i in -1..1 and the kernel k(d) = d (1 - fade(|d|)), fade(u) = 6u^5 - 15u^4 + 10u^3, zero for
|d| >= 1 (Perlin 1985; fade as improved by Perlin 2002).
"""

from __future__ import annotations

import math

import numpy as np

from zittern.core import streams
from zittern.core.streams import Seeds
from zittern.core.units import Array, IntArray

__all__ = ["OCTAVE_RMS", "PEAK_CYCLES_PER_STEP", "octave"]

# Peak of |K(f)|^2, K the Fourier transform of the kernel, in cycles a lattice step (tests integrate it anew).
PEAK_CYCLES_PER_STEP = 0.49947525862386943
# RMS of one octave over random phase: sqrt(2/3 * integral of k(d)^2 over 0..1).
OCTAVE_RMS = math.sqrt(0.019795019795019797)
# A table of gradients is made when it is at most this many times as long as the samples asked for.
_TABLE_LIMIT = 4


def octave(steps: Array, number: int, seeds: Seeds, totals: Array | None = None) -> Array:
    """One octave, of RMS OCTAVE_RMS. steps: (A, F) lattice steps of the first octave -> (A, F). number: 0 for the first, each twice as fast as
    the one before. seeds: (A,). totals: (A,) steps after which it repeats.
    """
    periods: IntArray | None = None
    scale: Array | float = 2.0**number
    if totals is not None:
        # A whole number of steps to the loop; the rate gives way by less than half a step.
        periods = np.maximum(1, np.round(totals * scale)).astype(np.int64)
        scale = np.where(totals > 0, periods / np.where(totals > 0, totals, 1.0), 0.0)[:, None]
    streams_ = streams.spawn(seeds, number)
    x = steps * scale + streams.start(streams_, -1)[:, None]
    floor = np.floor(x)
    u = x - floor
    left, right = _gradients(floor.astype(np.int64), streams_, periods)
    rise = left * u
    fall = right * (u - 1.0)
    fall -= rise
    fall *= _fade(u)
    rise += fall
    return rise


def _fade(u: Array) -> Array:
    """6u^5 - 15u^4 + 10u^3, by Horner's rule in place."""
    out = u * 6.0
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
