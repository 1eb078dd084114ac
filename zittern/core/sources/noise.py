"""Noise: fractal gradient noise of unit RMS whose spectrum peaks at the rate.

One octave is n(x) = sum_i g_i k(x - i) with random gradients g_i in -1..1 and the kernel k(d) = d (1 - fade(|d|)),
fade(u) = 6u^5 - 15u^4 + 10u^3, zero for |d| >= 1 (Perlin 1985; fade as improved by Perlin 2002). Octave o runs at 2^o times
the rate with persistence^o times the size; the sum is divided by the root of the sum of squares, so that more octaves
change the texture and never the size.
"""

from __future__ import annotations

import math
from typing import Annotated, Literal

import numpy as np
from pydantic import Field

from zittern.core.numbers.param import Param, bounded, fixed
from zittern.core.numbers.scope import Scope
from zittern.core.sources import streams
from zittern.core.sources.source import Inputs, SourceDoc
from zittern.core.sources.streams import Seeds
from zittern.core.units import Array, IntArray

__all__ = ["MOST_OCTAVES", "Noise"]

MOST_OCTAVES = 8
# Peak of |K(f)|^2, K the Fourier transform of the kernel, in cycles a lattice step (tests integrate it anew).
PEAK_CYCLES_PER_STEP = 0.49947525862386943
# RMS of one octave over random phase: sqrt(2/3 * integral of k(d)^2 over 0..1).
OCTAVE_RMS = math.sqrt(0.019795019795019797)
# A table of gradients is made when it is at most this many times as long as the samples asked for.
_TABLE_LIMIT = 4
# Frames worked on at a time: the arrays of seven axes then stay in a processor's cache.
_CHUNK_FRAMES = 1024


class Noise(SourceDoc):
    """Irregular motion, as of a hand that holds a camera."""

    kind: Literal["noise"] = "noise"
    rate_hz: Annotated[Param, bounded(0.0, 500.0)] = fixed(0.6)
    octaves: int = Field(default=2, ge=1, le=MOST_OCTAVES)
    persistence: Annotated[Param, bounded(0.0, 1.0)] = fixed(0.5)
    loop: bool = False

    def peak_hz(self, scope: Scope) -> Array:
        """The rate: the first octave is the largest. (F,)."""
        return self.rate_hz.sample(scope)

    def motion(self, inputs: Inputs) -> Array:
        """(F, A), unit RMS."""
        steps = inputs.phase(self.rate_hz).T / PEAK_CYCLES_PER_STEP
        totals = inputs.total_phase(self.rate_hz) / PEAK_CYCLES_PER_STEP if self.loop else None
        share = self.persistence.sample(inputs.scope)
        out = np.empty(steps.shape)
        for start in range(0, steps.shape[1], _CHUNK_FRAMES):
            part = slice(start, start + _CHUNK_FRAMES)
            out[:, part] = _fractal(steps[:, part], share[part], self.octaves, inputs.seeds, totals)
        return out.T


def _fractal(steps: Array, share: Array, octaves: int, seeds: Seeds, totals: Array | None) -> Array:
    """Octaves added and scaled to unit RMS. steps: (A, F), share: (F,) -> (A, F)."""
    total = _octave(steps, 0, seeds, totals)
    size = np.ones(share.shape)
    power = np.ones(share.shape)
    for octave in range(1, octaves):
        size = size * share
        power += size * size
        total += size * _octave(steps, octave, seeds, totals)
    total /= np.sqrt(power) * OCTAVE_RMS
    return total


def _octave(steps: Array, octave: int, seeds: Seeds, totals: Array | None) -> Array:
    """One octave. steps: (A, F) lattice steps of the first octave -> (A, F). totals: (A,) steps after which it repeats."""
    periods: IntArray | None = None
    scale: Array | float = 2.0**octave
    if totals is not None:
        # A whole number of steps to the loop; the rate gives way by less than half a step.
        periods = np.maximum(1, np.round(totals * scale)).astype(np.int64)
        scale = np.where(totals > 0, periods / np.where(totals > 0, totals, 1.0), 0.0)[:, None]
    streams_ = streams.spawn(seeds, octave)
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
