"""Sums of sines in a narrow or wide band: exactly band-limited, of unit RMS, and periodic on request.

value = sqrt(2) sum_i a_i sin(2 pi (theta_i + start_i)), sum a_i^2 = 1, random starts an axis (Rice 1944, "Mathematical
analysis of random noise": a sum of many such sines is Gaussian noise with the spectrum a_i^2).
"""

from __future__ import annotations

import numpy as np

from zittern.core.noise import streams
from zittern.core.noise.streams import Seeds
from zittern.core.units import Array

__all__ = ["scattered", "sines", "whole_cycles"]


def sines(cycles: Array, amplitudes: Array, seeds: Seeds) -> Array:
    """Sum of sines with random starts.

    Parameters
    ----------
    cycles: (F, A, N) of N sines.
    amplitudes : (A, N) float64, amplitudes, in any unit.
    seeds : (A,) uint64, seeds.

    Returns
    -------
    (F, A) float64, in the unit of the amplitudes.
    """
    sizes = amplitudes / np.sqrt(np.sum(amplitudes**2, axis=1, keepdims=True))
    starts = streams.at(seeds, np.arange(amplitudes.shape[1], dtype=np.int64)) * 0.5
    out = np.zeros(cycles.shape[:2])
    for i in range(amplitudes.shape[1]):
        out += sizes[:, i] * np.sin(2.0 * np.pi * (cycles[:, :, i] + starts[:, i]))
    return np.asarray(np.sqrt(2.0) * out, dtype=np.float64)


def scattered(count: int, seeds: Seeds) -> Array:
    """Places between -1 and 1, one in each of `count` equal stretches, other ones for each seed.

    Two axes with the same frequencies would keep one correlation permanently; with different ones they have none.

    Parameters
    ----------
    seeds : (A,) uint64, seeds.

    Returns
    -------
    (A, N) float64, dimensionless.
    """
    inside = streams.at(streams.spawn(seeds, 7), np.arange(count, dtype=np.int64))
    return np.asarray((2.0 * np.arange(count) + 1.0 + inside) / count - 1.0, dtype=np.float64)


def whole_cycles(totals: Array) -> Array:
    """Factors that bring cycles to the nearest whole number, at least one, so that they close a loop.

    Parameters
    ----------
    totals: (A, N) cycles.

    Returns
    -------
    (A, N) float64, dimensionless.
    """
    return np.asarray(
        np.where(totals > 0, np.maximum(1.0, np.round(totals)) / np.where(totals > 0, totals, 1.0), 0.0),
        dtype=np.float64,
    )
