"""Random numbers that depend on (seed, axis, position) only: no state, same on every machine, in any order.

SplitMix64's finalizer (Steele, Lea and Flood 2014, "Fast splittable pseudorandom number generators").
"""

from __future__ import annotations

from functools import lru_cache

import numpy as np
import numpy.typing as npt

from zittern.core.units import Array, IntArray

__all__ = ["Seeds", "at", "at_each", "in_a_row", "mix", "next_seed", "numbered", "spawn", "start"]

Seeds = npt.NDArray[np.uint64]

_GOLDEN = np.uint64(0x9E3779B97F4A7C15)
_MIX_1 = np.uint64(0xBF58476D1CE4E5B9)
_MIX_2 = np.uint64(0x94D049BB133111EB)
_S30, _S27, _S31, _S11 = np.uint64(30), np.uint64(27), np.uint64(31), np.uint64(11)
# 53 random bits, the mantissa of a double.
_UNIT = 2.0**-53
_SEED_BITS = 2**53 - 1
_WORD = 2**64 - 1


def _finalize(z: Seeds) -> Seeds:
    z = z ^ (z >> _S30)
    z *= _MIX_1
    z ^= z >> _S27
    z *= _MIX_2
    z ^= z >> _S31
    return z


@lru_cache(maxsize=65_536)
def mix(*parts: int) -> int:
    """One 64-bit seed from several whole numbers; order matters. The same finalizer on Python's own numbers."""
    z = 0
    for part in parts:
        z = ((z + 0x9E3779B97F4A7C15) ^ part) & _WORD
        z = ((z ^ (z >> 30)) * 0xBF58476D1CE4E5B9) & _WORD
        z = ((z ^ (z >> 27)) * 0x94D049BB133111EB) & _WORD
        z ^= z >> 31
    return z


def spawn(seeds: Seeds, salt: int | Seeds) -> Seeds:
    """Another stream for each seed, as seeds and salts broadcast. (A,) -> (A,)."""
    return _finalize((seeds + _GOLDEN) ^ np.asarray(salt, dtype=np.uint64))


def start(seeds: Seeds, salt: int) -> Array:
    """Return a number in 0..1 for each seed.

    Parameters
    ----------
    seeds : (A,) uint64, seeds.

    Returns
    -------
    (A,) float64, dimensionless.
    """
    return at(seeds, np.full((len(seeds), 1), salt, dtype=np.int64))[:, 0] * 0.5 + 0.5


def at(seeds: Seeds, positions: IntArray) -> Array:
    """Random numbers in -1..1 at whole positions.

    Parameters
    ----------
    seeds : (A,) uint64, seeds.
    positions: (A, N) or (N,).

    Returns
    -------
    (A, N), uniform, variance 1/3.
    """
    return at_each(seeds[:, None], positions)


def at_each(seeds: Seeds, positions: IntArray) -> Array:
    """Return random numbers in -1..1 at whole positions, each with its own seed, or broadcast.

    Parameters
    ----------
    seeds : (A, 1) uint64, seeds.
    positions : (A, N) int64, positions in the stream.

    Returns
    -------
    (A, N), uniform, variance 1/3.
    """
    return _unit(positions.astype(np.uint64) * _GOLDEN + seeds)


def in_a_row(seeds: Seeds, firsts: IntArray, counts: IntArray) -> Array:
    """Return random numbers at adjacent positions, grouped by seed.

    For each seed `counts` numbers, from position `firsts` on.

    Parameters
    ----------
    seeds : (G, A) uint64, seeds.
    firsts : (G,) int64, first position of each group.
    counts : (G,) int64, number of positions of each group.

    Returns
    -------
    (N,), N = A x sum of counts; -1..1.
    """
    axes = seeds.shape[1]
    steps = np.arange(int(counts.max()), dtype=np.uint64) * _GOLDEN
    begins = seeds + (firsts.astype(np.uint64) * _GOLDEN)[:, None]
    ends = (np.cumsum(counts) * axes).tolist()
    z = np.empty(ends[-1], dtype=np.uint64)
    for group, (start, stop) in enumerate(zip([0, *ends], ends, strict=False)):
        of_group = z[start:stop].reshape(axes, -1)
        np.add(steps[: of_group.shape[1]], begins[group][:, None], out=of_group)
    return _unit(z)


def _unit(z: Seeds) -> Array:
    """Return numbers in -1..1 from random words. (...) -> (...)."""
    z = _finalize(z)
    z >>= _S11
    out = z.astype(np.float64)
    out *= 2.0 * _UNIT
    out -= 1.0
    return out


def numbered(index: Array, seeds: Seeds, salt: int) -> Array:
    """Return a random number for each whole number of an array, from another stream of one seed.

    Parameters
    ----------
    index: of any shape.
    seeds : (1,) uint64, seed.

    Returns
    -------
    -1..1, of the same shape.
    """
    return at(spawn(seeds, salt), index.astype(np.int64).ravel()).reshape(index.shape)


def next_seed(seed: int) -> int:
    """Another seed, exact in a double, that follows from this one."""
    return mix(seed, 1) & _SEED_BITS
