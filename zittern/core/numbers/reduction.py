"""Reduction of samples to few cubic keys: a fit within a tolerance, not a choice of samples.

Segments are cubic and meet the samples at their ends; both slopes are a least-squares fit. Each segment extends as far
as the tolerance allows, so their number is close to the smallest possible. Keys prefer preferred samples, usually
those on whole frames.
"""

from __future__ import annotations

from dataclasses import dataclass, field

import numpy as np

from zittern.core.numbers.curves import Key
from zittern.core.runtime import budget
from zittern.core.units import Array, BoolArray, IntArray

__all__ = ["Spline", "fit", "fitted_keys"]

# Matrices of segments with up to so many samples are kept: most segments share them.
_MEMOIZED = 64


@dataclass(frozen=True, slots=True)
class Spline:
    """Cubic Hermite segments between keys.

    at: (K,) rising, of the keys. values: (K, C). slope_in, slope_out: (K, C) per unit of `at`, before and after each
    key; the first has no slope before it and the last none after it, which are 0.
    """

    at: Array
    values: Array
    slope_in: Array
    slope_out: Array

    def keys(self, which: slice) -> Spline:
        """Return some of the keys."""
        return Spline(self.at[which], self.values[which], self.slope_in[which], self.slope_out[which])

    def sample(self, at: Array) -> Array:
        """Return the values at some places, held outside the keys.

        Parameters
        ----------
        at : (N,) float64, in the unit of the keys.

        Returns
        -------
        (N, C) in the unit of the values.
        """
        if len(self.at) == 1:
            return np.repeat(self.values, len(at), axis=0)
        left = np.clip(np.searchsorted(self.at, at, side="right") - 1, 0, len(self.at) - 2)
        width = (self.at[left + 1] - self.at[left])[:, None]
        u = np.clip((at[:, None] - self.at[left, None]) / width, 0.0, 1.0)
        h0, h1, g0, g1 = _basis(u)
        return np.asarray(
            h0 * self.values[left]
            + h1 * self.values[left + 1]
            + width * (g0 * self.slope_out[left] + g1 * self.slope_in[left + 1])
        )


def fit(at: Array, values: Array, weight: Array, preferred: BoolArray) -> Spline:
    """Return keys whose segments deviate from samples by up to 1, after weighting.

    Parameters
    ----------
    at : (N,), rising.
    values : (N, C), samples there.
    weight : (N,), factor for the length of a deviation.
    preferred : (N,), samples that may become keys. Others do only if one segment between two of these is not enough.
    """
    samples = _Samples(at, values, weight)
    places = np.flatnonzero(preferred | np.isin(np.arange(len(at)), (0, len(at) - 1)))
    keys: list[int] = [0]
    slopes: list[Array | None] = []
    while keys[-1] < len(at) - 1:
        budget.check()
        first = int(np.searchsorted(places, keys[-1], side="right"))
        reached, found = _furthest(samples, keys[-1], places[first:], len(at) if len(keys) < 2 else keys[-1] - keys[-2])
        if found is None:
            # Between two places. The segment before may extend to there.
            inner = np.arange(keys[-1] + 1, places[first] + 1)
            if slopes:
                reached, found = _furthest(samples, keys[-2], inner, inner[0] - keys[-2])
            if found is None:
                reached, found = _furthest(samples, keys[-1], inner, 1)
            else:
                keys.pop()
                slopes.pop()
        keys.append(reached)
        slopes.append(found)
    chosen = np.array(keys)
    out = np.zeros((2, len(keys), values.shape[1]))
    for n, each in enumerate(slopes):
        if each is not None:
            out[1, n], out[0, n + 1] = each
    return Spline(at[chosen], values[chosen], *out)


def fitted_keys(frames: Array, values: Array, tolerance: float) -> tuple[Key, ...]:
    """Return keys with handles whose curve passes samples within a tolerance.

    Parameters
    ----------
    frames : (N,) rising.
    values : (N,) in the unit of the number.
    """
    spline = fit(frames, values[:, None], np.full(len(frames), 1.0 / tolerance), np.ones(len(frames), dtype=bool))
    thirds = np.diff(spline.at) / 3.0
    before, after = np.concatenate([[0.0], thirds]), np.concatenate([thirds, [0.0]])
    columns = (spline.at, spline.values[:, 0], before, spline.slope_in[:, 0], after, spline.slope_out[:, 0])
    return tuple(
        Key(
            frame=frame,
            value=value,
            interp="free",
            handle_in=(-left, -left * slope_in) if left else None,
            handle_out=(right, right * slope_out) if right else None,
        )
        for frame, value, left, slope_in, right, slope_out in zip(*(each.tolist() for each in columns), strict=True)
    )


@dataclass(frozen=True, slots=True)
class _Samples:
    at: Array
    values: Array
    weight: Array
    matrices: dict[bytes, tuple[Array, Array, Array]] = field(default_factory=dict)

    def slopes(self, first: int, last: int) -> Array | None:
        """Return both slopes (2, C) of the segment between two samples, or None where it deviates too much."""
        part = slice(first, last + 1)
        at, values = self.at[part], self.values[part]
        width = at[-1] - at[0]
        if len(at) == 2:
            return np.repeat((values[1:] - values[:1]) / width, 2, axis=0)
        of_ends, of_slopes, best = self._matrices((at[1:-1] - at[0]) / width)
        rest = values[1:-1] - of_ends @ values[:: len(values) - 1]
        slopes = best @ rest
        rest -= of_slopes @ slopes
        error = np.einsum("ij,ij->i", rest, rest) * self.weight[first + 1 : last] ** 2
        return np.asarray(slopes / width) if error.max() <= 1.0 else None

    def _matrices(self, u: Array) -> tuple[Array, Array, Array]:
        """Return the basis at places (M,) of the values at both ends (M, 2), of both slopes, and its inverse (2, M)."""
        if len(u) > _MEMOIZED:
            return _matrices(u)
        key = u.round(9).tobytes()
        if key not in self.matrices:
            self.matrices[key] = _matrices(u)
        return self.matrices[key]


def _matrices(u: Array) -> tuple[Array, Array, Array]:
    basis = np.stack(_basis(u), axis=1)
    of_slopes = basis[:, 2:]
    # With one sample for two slopes the inverse gives the smallest ones.
    return basis[:, :2], of_slopes, np.asarray(np.linalg.pinv(of_slopes), dtype=np.float64)


def _basis(u: Array) -> tuple[Array, Array, Array, Array]:
    """Return the Hermite basis: of both values and of both slopes."""
    v = 1.0 - u
    return v * v * (1.0 + 2.0 * u), u * u * (1.0 + 2.0 * v), u * v * v, -u * u * v


def _furthest(samples: _Samples, first: int, places: IntArray, guess: int) -> tuple[int, Array | None]:
    """Return the last place to which one segment from a sample is close enough, and its slopes.

    The search starts at a length, in samples, doubles or halves it and then bisects. The first place and None where
    even that segment deviates too much.
    """
    good, found = -1, None
    bad = len(places)
    step = max(1, int(np.searchsorted(places, first + guess, side="right")))
    while bad - good > 1:
        # Up from what fits, doubling, until something does not; then between both.
        n = min(good + step, bad - 1) if bad == len(places) else (good + bad) // 2
        slopes = samples.slopes(first, int(places[n]))
        if slopes is None:
            bad = n
        else:
            good, found, step = n, slopes, 2 * step
    return int(places[max(good, 0)]), found
