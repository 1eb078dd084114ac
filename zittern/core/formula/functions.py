"""THE TABLE of functions and constants in formulas.

Whole arrays in, whole arrays out; an argument may be one number for all frames.

What has no finite answer gets one that is written here, so that a camera never flies off: a division by zero, the
logarithm or root of an invalid value, and an undefined power give 0; values that are too large stay at `LARGEST`.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from zittern.core.noise import streams
from zittern.core.noise.octave import OCTAVE_RMS, PEAK_CYCLES_PER_STEP, octave
from zittern.core.units import Array

__all__ = ["CONSTANTS", "FUNCTIONS", "LARGEST", "Function", "divided", "power", "remainder"]

# Larger than any number of a shot may be, and far from where doubles end.
LARGEST = 1e12
_SEEDS = 2**53
_SALT = 77


@dataclass(frozen=True, slots=True)
class Function:
    """least and most: number of arguments.

    does: the function of arrays (F,) or single numbers. told: description. by_axis: whether a missing last argument is
    the axis of the formula. jumps: whether its value may jump where its arguments do not. bound: maximum of its value
    for any arguments.
    """

    name: str
    arguments: str
    least: int
    most: int
    does: Callable[..., Array]
    told: str
    by_axis: bool = False
    jumps: bool = False
    bound: float = math.inf


def divided(a: Array, b: Array) -> Array:
    """Return a / b; 0 where b is 0.

    >>> divided(np.array([1.0, 1.0]), np.array([4.0, 0.0]))
    array([0.25, 0.  ])

    Parameters
    ----------
    a : (F,) float64, left operand.
    b : (F,) float64, right operand.

    Returns
    -------
    (F,) float64, quotient.
    """
    return np.where(b == 0.0, 0.0, a / np.where(b == 0.0, 1.0, b))


def remainder(a: Array, b: Array) -> Array:
    """Return the remainder of a divided by b; it has the sign of b. 0 where b is 0.

    >>> remainder(np.array([7.0, -1.0]), np.array([3.0, 3.0]))
    array([1., 2.])

    Parameters
    ----------
    a : (F,) float64, left operand.
    b : (F,) float64, right operand.

    Returns
    -------
    (F,) float64, remainder.
    """
    return np.where(b == 0.0, 0.0, np.mod(a, np.where(b == 0.0, 1.0, b)))


def power(a: Array, b: Array) -> Array:
    """Return a to the power of b; 0 where that does not exist: a root of what is negative, a negative power of 0.

    Parameters
    ----------
    a : (F,) float64, left operand.
    b : (F,) float64, right operand.

    Returns
    -------
    (F,) float64, power.
    """
    missing = ((a < 0.0) & (np.floor(b) != b)) | ((a == 0.0) & (b < 0.0))
    return np.where(missing, 0.0, np.power(np.where(missing, 1.0, a), b))


def _log(x: Array) -> Array:
    return np.where(x > 0.0, np.log(np.where(x > 0.0, x, 1.0)), 0.0)


def _sqrt(x: Array) -> Array:
    return np.sqrt(np.maximum(x, 0.0))


def _clamp(x: Array, least: Array, most: Array) -> Array:
    return np.minimum(np.maximum(x, least), most)


def _mix(a: Array, b: Array, share: Array) -> Array:
    return a + (b - a) * share


def _smoothstep(least: Array, most: Array, x: Array) -> Array:
    u = np.clip(divided(x - least, most - least), 0.0, 1.0)
    return np.where(most == least, np.where(x >= most, 1.0, 0.0), u * u * (3.0 - 2.0 * u))


def _noise(x: Array, seed: Array | float = 0.0) -> Array:
    x, seed = np.broadcast_arrays(np.atleast_1d(x), np.atleast_1d(seed))
    steps = np.clip(x, -_SEEDS, _SEEDS) / PEAK_CYCLES_PER_STEP
    starts = streams.spawn(np.floor(np.clip(seed, -_SEEDS, _SEEDS)).astype(np.int64).astype(np.uint64), _SALT)
    if not len(starts):
        return np.empty(0)
    if np.all(starts == starts[0]):
        return np.asarray(octave(steps[None, :], 0, starts[:1])[0] / OCTAVE_RMS, dtype=np.float64)
    return np.asarray(octave(steps[:, None], 0, starts)[:, 0] / OCTAVE_RMS, dtype=np.float64)


def _pulse(x: Array, width: Array | float = 0.5) -> Array:
    return np.where(np.mod(x, 1.0) < width, 1.0, 0.0)


def _decay(x: Array, half: Array | float = 1.0) -> Array:
    return np.where(x < 0.0, 0.0, np.exp2(-divided(np.maximum(x, 0.0), np.asarray(half))))


def _minimum(*values: Array) -> Array:
    return np.asarray(np.minimum.reduce(np.broadcast_arrays(*values)), dtype=np.float64)


def _maximum(*values: Array) -> Array:
    return np.asarray(np.maximum.reduce(np.broadcast_arrays(*values)), dtype=np.float64)


_MANY = 8
CONSTANTS: dict[str, float] = {"pi": np.pi, "tau": 2.0 * np.pi}
FUNCTIONS: dict[str, Function] = {
    each.name: each
    for each in (
        Function("sin", "x", 1, 1, np.sin, "sine of an angle in radians: sin(tau * t) swings once a second", bound=1.0),
        Function("cos", "x", 1, 1, np.cos, "cosine of an angle in radians", bound=1.0),
        Function("abs", "x", 1, 1, np.abs, "size without its sign"),
        Function("sign", "x", 1, 1, np.sign, "-1, 0 or 1", jumps=True),
        Function("min", "a, b, …", 2, _MANY, _minimum, "the least of its arguments"),
        Function("max", "a, b, …", 2, _MANY, _maximum, "the largest of its arguments"),
        Function("clamp", "x, least, most", 3, 3, _clamp, "x clamped to minimum–maximum"),
        Function("mix", "a, b, share", 3, 3, _mix, "a at share 0, b at share 1, between them in between"),
        Function(
            "smoothstep",
            "least, most, x",
            3,
            3,
            _smoothstep,
            "0 up to the minimum, 1 from the maximum on, a smooth rise in between",
        ),
        Function("floor", "x", 1, 1, np.floor, "the next whole number below", jumps=True),
        Function("ceil", "x", 1, 1, np.ceil, "the next whole number above", jumps=True),
        Function("round", "x", 1, 1, np.round, "the nearest whole number", jumps=True),
        Function(
            "fract",
            "x",
            1,
            1,
            lambda x: x - np.floor(x),
            "fractional part of x: a saw from 0 to 1",
            jumps=True,
        ),
        Function("mod", "a, b", 2, 2, remainder, "remainder of a divided by b", jumps=True),
        Function("exp", "x", 1, 1, np.exp, "e to the power of x"),
        Function("log", "x", 1, 1, _log, "natural logarithm; 0 where x is 0 or less"),
        Function("sqrt", "x", 1, 1, _sqrt, "square root; 0 where x is negative"),
        Function("pow", "a, b", 2, 2, power, "a to the power of b, as a ^ b"),
        Function(
            "noise",
            "x, seed",
            1,
            2,
            _noise,
            "irregular motion of unit size: noise(2 * t) peaks at 2 Hz; another seed, another motion; without one "
            "each axis has its own",
            by_axis=True,
            bound=1.0 / OCTAVE_RMS,
        ),
        Function(
            "pulse", "x, width", 1, 2, _pulse, "1 during the first part (half) of every whole x, else 0", jumps=True
        ),
        Function("decay", "x, half", 1, 2, _decay, "0 before x is 0, then 1, halved after every `half`", jumps=True),
    )
}
