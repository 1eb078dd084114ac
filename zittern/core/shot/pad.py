"""A position among corners, and the weight of each corner.

Two corners are on a line, more on a regular polygon (four on the corners of the pad itself). Shares are mean value
coordinates (Floater 2003, "Mean value coordinates"): 1 at a corner and 0 at the others, linear along the edges, smooth
inside. Positions outside are clamped to the nearest point of the edge.
"""

from __future__ import annotations

import numpy as np

from zittern.core.units import Array

__all__ = ["FEWEST_CORNERS", "MOST_CORNERS", "corners", "powers", "shares"]

FEWEST_CORNERS, MOST_CORNERS = 2, 6
# Closer to an edge than this is on it.
_ON_EDGE = 1e-9


def corners(count: int) -> Array:
    """Return the positions of corners on the pad, counter-clockwise; 0..1 from its left and lower edge.

    Returns
    -------
    (N, 2) float64, shares of the width and height of the pad.
    """
    if count == FEWEST_CORNERS:
        return np.array([[0.0, 0.5], [1.0, 0.5]])
    if count == 4:
        return np.array([[0.0, 0.0], [1.0, 0.0], [1.0, 1.0], [0.0, 1.0]])
    turn = np.pi / 2.0 + np.arange(count) * (2.0 * np.pi / count)
    return np.stack([0.5 + 0.5 * np.cos(turn), 0.5 + 0.5 * np.sin(turn)], axis=1)


def shares(count: int, place: Array) -> Array:
    """Return the share of each corner at positions on the pad: not negative, sum 1.

    >>> shares(2, np.array([[0.25, 0.0]]))
    array([[0.75, 0.25]])

    Parameters
    ----------
    place: (F, 2), 0..1 from the left and lower edge.

    Returns
    -------
    (F, N) float64, shares, dimensionless.
    """
    at = corners(count)
    if count == FEWEST_CORNERS:
        along = np.clip(place[:, 0], 0.0, 1.0)
        return np.stack([1.0 - along, along], axis=1)
    along, apart = _on_edges(at, place)
    inside = np.all(_cross(np.roll(at, -1, axis=0) - at, place[:, None] - at) >= 0.0, axis=1)
    out = np.zeros((len(place), count))
    edge = np.argmin(apart, axis=1)
    rows = np.arange(len(place))
    on = ~inside | (apart[rows, edge] <= _ON_EDGE)
    out[rows[on], edge[on]] = 1.0 - along[rows[on], edge[on]]
    out[rows[on], (edge[on] + 1) % count] += along[rows[on], edge[on]]
    out[~on] = _mean_values(at, place[~on])
    return out


def powers(of: Array) -> Array:
    """Shares as factors of sources that do not hang together: their squares add up to 1, so the size stays.

    Parameters
    ----------
    of: (..., N) shares.

    Returns
    -------
    (..., N).
    """
    return np.asarray(of / np.sqrt(np.sum(of * of, axis=-1, keepdims=True)))


def _mean_values(at: Array, place: Array) -> Array:
    """Inside of the polygon. (F, 2) -> (F, N)."""
    way = at[None] - place[:, None]
    next_way = np.roll(way, -1, axis=1)
    far = np.linalg.norm(way, axis=2)
    # tan(a / 2) = sin a / (1 + cos a) of the angle between neighbouring corners.
    half = _cross(way, next_way) / (far * np.roll(far, -1, axis=1) + np.sum(way * next_way, axis=2))
    weight = (half + np.roll(half, 1, axis=1)) / far
    return np.asarray(weight / np.sum(weight, axis=1, keepdims=True))


def _on_edges(at: Array, place: Array) -> tuple[Array, Array]:
    """Return the position of the nearest point along every edge, and its distance. (F, N), (F, N)."""
    edge = np.roll(at, -1, axis=0) - at
    along = np.clip(np.sum((place[:, None] - at) * edge, axis=2) / np.sum(edge * edge, axis=1), 0.0, 1.0)
    nearest = at + along[:, :, None] * edge
    return along, np.linalg.norm(place[:, None] - nearest, axis=2)


def _cross(a: Array, b: Array) -> Array:
    return np.asarray(a[..., 0] * b[..., 1] - a[..., 1] * b[..., 0])
