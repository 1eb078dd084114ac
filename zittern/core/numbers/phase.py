"""Phase: the integral of rate x speed over time, so that a change of speed bends the motion and never makes it jump."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np

from zittern.core.numbers.param import Number
from zittern.core.numbers.scope import Scope
from zittern.core.runtime import budget
from zittern.core.units import Array

__all__ = ["integrate", "one_of_equal", "phase_table"]

# Four-point Gauss-Legendre is exact to degree 7; a product of two cubic segments has degree 6.
_NODES, _WEIGHTS = np.polynomial.legendre.leggauss(4)
# Cells worked on at a time: memory does not grow with the length of a shot.
_CHUNK_CELLS = 32_768
# Outside the shot, cells become wider than a frame beyond this number: only their sum is used.
_MOST_FAR_CELLS = 65_536


def integrate(factors: Sequence[Number], scope: Scope, start_frame: float, table: Array | None = None) -> Array:
    """phi(f) = integral of the product of the factors (each per second) from start_frame to each of the scope's frames.

    `table` is the result of `phase_table` for the same factors and start; computed for these frames by default. Cells
    end at whole frames and at keys, so the result at a frame does not depend on which other frames are asked for.

    Parameters
    ----------
    table: result of `phase_table` for the same factors and start, (2, C).

    Returns
    -------
    (F,) cycles.
    """
    constants = [factor.constant for factor in factors]
    scale = math.prod(c for c in constants if c is not None) / scope.fps.value
    varying = _varying(factors)
    frames = scope.frames
    if not varying or frames.size == 0:
        return (frames - start_frame) * scale
    edges, total = (
        phase_table(factors, scope, start_frame, (float(frames.min()), float(frames.max()))) if table is None else table
    )
    cell = np.clip(np.searchsorted(edges, frames, side="right") - 1, 0, len(edges) - 1)
    values = total[cell]
    partial = frames != edges[cell]
    if np.any(partial):
        values[partial] += _quadrature(varying, scope, edges[cell[partial]], frames[partial])
    return np.asarray(values * scale, dtype=np.float64)


def one_of_equal(rows: Array) -> Array:
    """Return phases as a single row if all axes have the same one; others unchanged.

    Parameters
    ----------
    rows: (A, F), one row repeated without copying (a stride of 0) where they are the same.

    Returns
    -------
    (1, F) or (A, F).
    """
    return rows[:1] if rows.strides[0] == 0 else rows


def phase_table(factors: Sequence[Number], scope: Scope, start_frame: float, reach: tuple[float, float]) -> Array:
    """Return cells over a range of frames and the start, and integrals of the varying factors.

    Edges of the cells, and the integral from the start to each.

    Within the reach cells are whole frames, cut at keys.

    Returns
    -------
    (2, C) float64, frame numbers, and integrals in cycles.
    """
    varying = _varying(factors)
    near = np.arange(math.floor(reach[0]), math.ceil(reach[1]) + 1, dtype=np.float64)
    edges = [near, _far(start_frame, near[0]), _far(near[-1], start_frame), np.array([start_frame])]
    low, high = min(start_frame, near[0]), max(start_frame, near[-1])
    for factor in varying:
        keys = factor.breaks
        edges.append(keys[(keys > low) & (keys < high)])
    cells = np.unique(np.concatenate(edges))
    total = np.concatenate(([0.0], np.cumsum(_quadrature(varying, scope, cells[:-1], cells[1:]))))
    return np.stack([cells, total - total[np.searchsorted(cells, start_frame)]])


def _varying(factors: Sequence[Number]) -> list[Number]:
    return [factor for factor in factors if factor.constant is None]


def _far(low: float, high: float) -> Array:
    """Edges from low to high, outside the reach: whole frames while there are not too many."""
    if high <= low:
        return np.empty(0)
    if high - low <= _MOST_FAR_CELLS:
        return np.arange(math.floor(low) + 1, math.ceil(high), dtype=np.float64)
    return np.linspace(low, high, _MOST_FAR_CELLS)


def _quadrature(factors: Sequence[Number], scope: Scope, start: Array, stop: Array) -> Array:
    """Integral over each [start, stop] in frames, negative where stop comes first. (C,), (C,) -> (C,)."""
    out = np.empty(len(start))
    for first in range(0, len(start), _CHUNK_CELLS):
        budget.check()
        part = slice(first, first + _CHUNK_CELLS)
        half = 0.5 * (stop[part] - start[part])
        points = (start[part] + half)[:, None] + half[:, None] * _NODES
        here = scope.over(points.ravel())
        product = np.ones(points.size)
        for factor in factors:
            product = product * factor.sample(here)
        out[part] = half * (product.reshape(points.shape) @ _WEIGHTS)
    return out
