"""Radial distortion of a lens after Brown and Conrady (D.

C. Brown, Decentering distortion of lenses, 1966), as in camera calibration: a point of the picture is a tangent, its
distance from the axis of the lens over the focal length, and a pinhole image point p appears at p (1 + k1 r^2 + k2
r^4), r = |p|.

Away from the axis the radius folds back where k1 is far below 0, unlike any lens: from there on the picture continues
in proportion, so that each place of it shows one thing.
"""

from __future__ import annotations

from functools import lru_cache

import numpy as np

from zittern.core.units import Array

__all__ = ["distorted", "turn_back", "undistorted", "undistorted_nearly"]

# Without a fold, the radius is never scaled below this share: 1 - k1^2 / 4 k2 with k2 = 9 k1^2 / 20.
_LEAST_SHARE = 4.0 / 9.0
_MOST_STEPS = 60
_NEAR = 1e-13
# Squared tangents below this are on the axis of the lens.
_TINY = 1e-24
# Rows of a table of the inverse, the share of the radius up to the fold that it covers, and its largest tangent.
_TABLE, _SAFE, _WIDEST = 513, 0.9, 4.0
# Degrees of polynomials for the inverse, the number of points to fit them, and their maximum error.
_DEGREES, _FITTED, _NEAR_ENOUGH = (4, 6, 8), 64, 1e-7


def distorted(flat: Array, k: Array) -> Array:
    """Return the distorted positions of pinhole image points.

    >>> distorted(np.array([[0.0, 0.5]]), np.array([[-0.1, 0.0]]))
    array([[0.    , 0.4875]])

    Parameters
    ----------
    flat: (F, ..., 2) tangents.
    k: (F, 2) k1 and k2.

    Returns
    -------
    (F, ..., 2) tangents.
    """
    k1, k2 = _broadcast_columns(k, flat)
    squared = np.minimum(np.sum(flat * flat, axis=-1), _broadcast_columns(turn_back(k)[:, None], flat)[0])
    return np.asarray(flat * _share(squared, k1, k2)[..., None])


def undistorted(seen: Array, k: Array) -> Array:
    """Return the pinhole image points of distorted positions: the inverse of `distorted`.

    Parameters
    ----------
    seen: (F, ..., 2) tangents.
    k: (F, 2) k1 and k2.

    Returns
    -------
    (F, ..., 2) tangents.
    """
    if not np.any(k):
        return seen
    wanted = np.sqrt(seen[..., 0] ** 2 + seen[..., 1] ** 2)
    radius = _from_table(wanted, k[:1]) if np.all(k == k[0]) else _solved(wanted, k)
    return np.asarray(seen * (radius / np.where(wanted > 0.0, wanted, 1.0))[..., None])


def undistorted_nearly(seen: Array, k: Array) -> Array:
    """Return the inverse to 1e-7, faster where the distortion is constant.

    By a polynomial of the ratio over squared tangents.

    Parameters
    ----------
    seen: (F, ..., 2) tangents.
    k: (F, 2) k1 and k2.

    Returns
    -------
    (F, ..., 2) tangents.
    """
    if not np.any(k) or not np.all(k == k[0]):
        return undistorted(seen, k)
    squared = seen[..., 0] ** 2 + seen[..., 1] ** 2
    # Up to the next power of two, so that few polynomials serve all pictures of a lens.
    most = 2.0 ** np.ceil(np.log2(float(np.max(squared, initial=_TINY))))
    powers = _ratio_powers(most, *k[0].tolist())
    if powers is None:
        return undistorted(seen, k)
    ratio = np.full(squared.shape, powers[-1])
    for power in powers[-2::-1]:
        ratio *= squared
        ratio += power
    return np.asarray(seen * ratio[..., None])


@lru_cache(maxsize=64)
def _ratio_powers(most: float, k1: float, k2: float) -> tuple[float, ...] | None:
    """Powers of a polynomial of undistorted over seen tangents, up to squared tangents of most.

    None where none is near enough.
    """
    squared = most * (0.5 - 0.5 * np.cos(np.linspace(0.0, np.pi, _FITTED)[1:]))
    places = np.stack([np.sqrt(squared), np.zeros(len(squared))], axis=1)
    ratio = undistorted(places[None], np.array([[k1, k2]]))[0, :, 0] / places[:, 0]
    for degree in _DEGREES:
        powers = np.polynomial.Polynomial.fit(squared, ratio, degree, domain=[0.0, most]).convert().coef
        if np.max(np.abs(np.polynomial.polynomial.polyval(squared, powers) - ratio)) < _NEAR_ENOUGH:
            return tuple(powers.tolist())
    return None


def _from_table(wanted: Array, k: Array) -> Array:
    """Return the inverse for one pair of coefficients: a cubic through a table of it, and one of Newton's steps.

    k : (1, 2) float64, coefficients, dimensionless.
    """
    edge = float(np.sqrt(turn_back(k)[0]))
    # Close to where the formula turns back no cubic follows it.
    turn = _SAFE * edge * float(_share(np.square(edge), *k[0]))
    far = min(float(np.max(wanted, initial=0.0)), turn, _WIDEST)
    if not far > 0.0:
        return _solved(wanted, k)
    rows = np.linspace(0.0, far, _TABLE)
    radius = _solved(rows[None], k)[0]
    slope = (far / (_TABLE - 1)) / _slope(radius, *k[0])
    rise = np.diff(radius)
    square, cube = 3.0 * rise - 2.0 * slope[:-1] - slope[1:], slope[:-1] + slope[1:] - 2.0 * rise
    place = np.minimum(wanted / far, 1.0) * (_TABLE - 1)
    cell = np.minimum(place.astype(np.int64), _TABLE - 2)
    x = place - cell
    out = radius[cell] + x * (slope[cell] + x * (square[cell] + x * cube[cell]))
    out -= (out * _share(out * out, *k[0]) - wanted) / _slope(out, *k[0])
    beyond = wanted > far
    if np.any(beyond):
        out[beyond] = _solved(wanted[beyond][None], k)[0]
    return np.asarray(out)


def _solved(wanted: Array, k: Array) -> Array:
    """Return the inverse in any place, step by step. (F, ...), (F, 2) -> (F, ...)."""
    k1, k2 = _broadcast_columns(k, wanted[..., None])
    edge = _broadcast_columns(np.sqrt(turn_back(k))[:, None], wanted[..., None])[0]
    high = np.minimum(np.broadcast_to(edge, wanted.shape), wanted / _LEAST_SHARE)
    low = np.zeros_like(wanted)
    radius = np.minimum(wanted, high)
    for _ in range(_MOST_STEPS):
        off = radius * _share(radius * radius, k1, k2) - wanted
        low, high = np.where(off < 0.0, radius, low), np.where(off < 0.0, high, radius)
        # Newton's step, or the middle where that leaves the stretch in which it must be.
        with np.errstate(divide="ignore", invalid="ignore"):
            after = radius - off / _slope(radius, k1, k2)
        after = np.where((after >= low) & (after <= high), after, 0.5 * (low + high))
        done = np.all(np.abs(after - radius) <= _NEAR * (1.0 + wanted))
        radius = after
        if done:
            break
    with np.errstate(invalid="ignore"):
        beyond = wanted > edge * _share(edge * edge, k1, k2)
    return np.where(beyond, wanted / _share(edge * edge, k1, k2), radius)


def _slope(radius: Array, k1: Array, k2: Array) -> Array:
    """Return the derivative of r (1 + k1 r^2 + k2 r^4)."""
    squared = radius * radius
    return np.asarray(1.0 + squared * (3.0 * k1 + 5.0 * squared * k2))


def turn_back(k: Array) -> Array:
    """Return the radius at which the formula folds back: the smallest r^2 > 0 with 1 + 3 k1 r^2 + 5 k2 r^4 = 0.

    Parameters
    ----------
    k: (F, 2) k1 and k2.

    Returns
    -------
    (F,) squared tangents, infinite where it never does.
    """
    half, last = 1.5 * k[:, 0], 5.0 * k[:, 1]
    under = half * half - last
    with np.errstate(divide="ignore", invalid="ignore"):
        # The smaller positive root of last s^2 + 2 half s + 1, in the form that loses no digits.
        squared = 1.0 / (np.sqrt(np.maximum(under, 0.0)) - half)
    turns = (under >= 0.0) & (squared > 0.0) & np.isfinite(squared)
    return np.where(turns, squared, np.inf)


def _share(squared: Array, k1: Array, k2: Array) -> Array:
    """1 + k1 r^2 + k2 r^4; 1 at r without end."""
    with np.errstate(invalid="ignore"):
        return np.where(np.isfinite(squared), 1.0 + squared * (k1 + squared * k2), 1.0)


def _broadcast_columns(k: Array, places: Array) -> tuple[Array, ...]:
    """Return the columns of (F, C), shaped for broadcasting over the points of a frame."""
    return tuple(column.reshape(-1, *(1,) * (places.ndim - 2)) for column in k.T)
