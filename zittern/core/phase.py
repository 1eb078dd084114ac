"""Phase: the integral of rate x speed over time, so that a change of speed bends the motion and never makes it jump."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np

from zittern.core.params import Fixed, Keyed
from zittern.core.timebase import Fps
from zittern.core.units import Array

__all__ = ["integrate"]

# Four-point Gauss-Legendre is exact to degree 7; a product of two cubic segments has degree 6.
_NODES, _WEIGHTS = np.polynomial.legendre.leggauss(4)


def integrate(factors: Sequence[Fixed | Keyed], frames: Array, start_frame: float, fps: Fps) -> Array:
    """phi(f) = integral of the product of the factors (each per second) from start_frame to f. (F,) -> (F,) cycles.

    Cells end at whole frames and at keys, so the result at a frame does not depend on which other frames are asked for.
    """
    constants = [factor.constant for factor in factors]
    scale = math.prod(c for c in constants if c is not None) / fps.value
    varying = [factor for factor, c in zip(factors, constants, strict=True) if c is None]
    frames = np.asarray(frames, dtype=np.float64)
    if not varying or frames.size == 0:
        return (frames - start_frame) * scale

    edges = _cell_edges(varying, frames, start_frame)
    total = np.concatenate(([0.0], np.cumsum(_quadrature(varying, edges[:-1], edges[1:]))))
    cell = np.clip(np.searchsorted(edges, frames, side="right") - 1, 0, len(edges) - 1)
    values = total[cell] - total[np.searchsorted(edges, start_frame)]
    partial = frames > edges[cell]
    if np.any(partial):
        values[partial] += _quadrature(varying, edges[cell[partial]], frames[partial])
    return np.asarray(values * scale, dtype=np.float64)


def _cell_edges(factors: Sequence[Fixed | Keyed], frames: Array, start_frame: float) -> Array:
    low = min(math.floor(float(frames.min())), math.floor(start_frame))
    high = max(math.ceil(float(frames.max())), math.ceil(start_frame))
    edges = [np.arange(low, high + 1, dtype=np.float64), np.array([start_frame])]
    for factor in factors:
        keys = factor.key_frames
        edges.append(keys[(keys > low) & (keys < high)])
    return np.unique(np.concatenate(edges))


def _quadrature(factors: Sequence[Fixed | Keyed], start: Array, stop: Array) -> Array:
    """Integral over each [start, stop] in frames. (C,), (C,) -> (C,)."""
    half = 0.5 * (stop - start)
    points = (start + half)[:, None] + half[:, None] * _NODES
    product = np.ones(points.size)
    for factor in factors:
        product = product * factor.sample(points.ravel())
    return np.asarray(half * (product.reshape(points.shape) @ _WEIGHTS), dtype=np.float64)
