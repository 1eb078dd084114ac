"""The mean of a number over a moving stretch of time: it never moves faster than from end to end in that time."""

from __future__ import annotations

import numpy as np

from zittern.core.numbers.param import Number
from zittern.core.numbers.scope import Scope
from zittern.core.units import Array

__all__ = ["moving_mean"]

# Exact for polynomials up to degree 7 (Gauss and Legendre).
_NODES, _WEIGHTS = np.polynomial.legendre.leggauss(4)
# A range is cut at whole frames up to this number, else into as many equal pieces.
_MOST_PIECES = 16
# Sampled in one call, so that a long shot needs only a few arrays of its frames.
_MOST_POINTS = 100_000


def moving_mean(number: Number, scope: Scope, width_s: float) -> Array:
    """At each frame the mean from half a width before it to half a width after.

    What it is at a frame depends on that frame alone.

    Parameters
    ----------
    width_s: seconds.

    Returns
    -------
    (F,) float64, in the unit of the values.
    """
    if number.constant is not None:
        return np.full(len(scope.frames), number.constant)
    half = 0.5 * width_s * scope.fps.value
    first, last = scope.frames - half, scope.frames + half
    edges = _edges(number.breaks, first, last)
    at_once = max(1, _MOST_POINTS // max(1, len(_NODES) * len(scope.frames)))
    total = np.zeros(len(scope.frames))
    for n in range(0, len(edges) - 1, at_once):
        starts, stops = edges[n:-1][:at_once], edges[n + 1 :][:at_once]
        middle, reach = 0.5 * (starts + stops), 0.5 * (stops - starts)
        points = middle[..., None] + reach[..., None] * _NODES
        inside = number.sample(scope.over(points.ravel())).reshape(points.shape) @ _WEIGHTS
        total += np.sum(reach * inside, axis=0)
    return np.asarray(total / (2.0 * half), dtype=np.float64)


def _edges(keys: Array, first: Array, last: Array) -> Array:
    """End of pieces between frames, (F,) each, cut at keys and evenly. (P + 1, F), rising along the first."""
    if not len(first):
        return np.empty((1, 0))
    width = float(last[0] - first[0])
    even = min(int(np.ceil(width)) + 1, _MOST_PIECES)
    cuts = first + (last - first) * (np.arange(even + 1) / even)[:, None]
    keys = np.unique(keys)
    low, high = np.searchsorted(keys, first, side="right"), np.searchsorted(keys, last)
    for n in range(int(np.max(high - low, initial=0))):
        at = np.minimum(low + n, len(keys) - 1)
        cuts = np.concatenate([cuts, np.where(low + n < high, keys[at], last)[None]])
    return np.sort(cuts, axis=0)
