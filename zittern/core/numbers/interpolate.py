"""Numerics of keyed curves: which segment a frame falls in, and the value there.

scipy.interpolate takes half a second to import: it is imported on first use, so that commands start quickly.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence

import numpy as np

from zittern.core.runtime.later import scipy_part
from zittern.core.units import Array, IntArray

__all__ = ["bezier_at", "catmull_rom", "segment_of", "smooth_curve", "smooth_slopes"]

# Tolerance and maximum number of steps for a point on a Bezier's abscissa; where it rises less than this, bisection is
# used.
_NEAR_ENOUGH, _MOST_STEPS, _LEAST_SLOPE = 1e-15, 60, 1e-3


def segment_of(key_frames: Array, frames: Array) -> IntArray:
    """Index of the segment a frame falls in, the last key belonging to the last segment.

    Parameters
    ----------
    key_frames : (K,) float64, frame numbers of the keys, rising.
    frames : (F,) float64, frame numbers.

    Returns
    -------
    (F,) ints in 0..K-2.
    """
    found = np.searchsorted(key_frames, frames, side="right") - 1
    return np.clip(found, 0, len(key_frames) - 2).astype(np.int64)


def smooth_slopes(key_frames: Array, values: Array, flat_start: bool, flat_end: bool) -> Array:
    """Slopes per frame at the keys that keep a cubic Hermite curve monotone between keys.

    Fritsch and Butland (1984), as in scipy's PchipInterpolator. `flat_start` and `flat_end` set the outer
    slopes to 0, so that a curve meets a held end without a kink; 0 keeps the segment monotone as well.

    Parameters
    ----------
    key_frames : (K,) float64, frame numbers of the keys, rising.
    values : (K,) float64, values of the keys, in any unit.

    Returns
    -------
    (K,) float64, unit of the values per frame.
    """
    curve = scipy_part("interpolate").PchipInterpolator(key_frames, values)
    slopes = np.asarray(curve.derivative()(key_frames), dtype=np.float64)
    if flat_start:
        slopes[0] = 0.0
    if flat_end:
        slopes[-1] = 0.0
    return slopes


def smooth_curve(key_frames: Array, values: Array, slopes: Array) -> Callable[[Array], Array]:
    """Cubic Hermite curve through the keys, (F,) frames -> (F,).

    Parameters
    ----------
    key_frames: (K,) rising.
    values : (K,) float64, values of the keys, in any unit.
    slopes: (K,) per frame.

    Returns
    -------
    A function.
    """
    curve: Callable[[Array], Array] = scipy_part("interpolate").CubicHermiteSpline(key_frames, values, slopes)
    return curve


def catmull_rom(near: Sequence[Array], u: Array) -> Array:
    """Between the second and the third of four neighbouring samples.

    The curve passes all samples (Catmull and Rom 1974).

    >>> a, b, c, d = (np.array([each]) for each in (0.0, 1.0, 4.0, 9.0))
    >>> catmull_rom([a, b, c, d], np.array([0.5]))
    array([2.25])

    Parameters
    ----------
    near: four of (..., F).
    u: (F,), 0..1 of the way.

    Returns
    -------
    (..., F).
    """
    a, b, c, d = near
    half = 0.5 * u
    out = b * (1.0 + half * u * (3.0 * u - 5.0))
    out += a * (half * (u * (2.0 - u) - 1.0))
    out += c * (half * (u * (4.0 - 3.0 * u) + 1.0))
    out += d * (half * u * (u - 1.0))
    return np.asarray(out, dtype=np.float64)


def bezier_at(x: Array, x1: Array, x2: Array, y0: Array, y1: Array, y2: Array, y3: Array) -> Array:
    """Value of a cubic Bezier with control abscissae (0, x1, x2, 1) at abscissa x.

    With x1 and x2 in 0..1 the abscissa rises monotonically with the curve's parameter: Newton's steps find it, halving
    what brackets it wherever one would leave that (Press et al. 2007, Numerical Recipes, section 9.4).

    Parameters
    ----------
    x: (F,) in 0..1.
    x1: (F,) in 0..1.
    x2: (F,) in 0..1.
    y0 : (F,) float64, control ordinate, in any unit.
    y1 : (F,) float64, control ordinate, in any unit.
    y2 : (F,) float64, control ordinate, in any unit.
    y3 : (F,) float64, control ordinate, in any unit.

    Returns
    -------
    (F,) float64, in the unit of the ordinates.
    """
    a, b, c = 1.0 + 3.0 * (x1 - x2), 3.0 * (x2 - 2.0 * x1), 3.0 * x1
    low, high, s = np.zeros_like(x), np.ones_like(x), x.copy()
    left = np.arange(len(x))
    for _ in range(_MOST_STEPS):
        at, near = s[left], (a[left], b[left], c[left])
        off = ((near[0] * at + near[1]) * at + near[2]) * at - x[left]
        slope = (3.0 * near[0] * at + 2.0 * near[1]) * at + near[2]
        steep = slope > _LEAST_SLOPE
        still = np.abs(off) > _NEAR_ENOUGH * np.where(steep, slope, _LEAST_SLOPE)
        left, at, off, slope, steep = left[still], at[still], off[still], slope[still], steep[still]
        if not len(left):
            break
        low[left], high[left] = np.where(off < 0.0, at, low[left]), np.where(off < 0.0, high[left], at)
        step = at - off / np.where(steep, slope, 1.0)
        taken = steep & (step > low[left]) & (step < high[left])
        s[left] = np.where(taken, step, 0.5 * (low[left] + high[left]))
    return _bernstein(s, y0, y1, y2, y3)


def _bernstein(s: Array, p0: Array | float, p1: Array, p2: Array, p3: Array | float) -> Array:
    r = 1.0 - s
    return r * r * r * p0 + 3.0 * r * r * s * p1 + 3.0 * r * s * s * p2 + s * s * s * p3
