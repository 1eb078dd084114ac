"""Second-order following, made discrete exactly for an input that is straight between grid points (first-order hold), so that no step is too large.

Carried, a mass on a spring and a damper that a moving point carries: x'' = w^2 (u - x) + 2 z w (u' - x'), with w = 2 pi f. No lag at constant speed, a
lag of a / w^2 under constant acceleration a (Den Hartog 1956, Mechanical Vibrations, section 2.12). H(s) = (2 z w s + w^2) / (s^2 + 2 z w s + w^2).

Led, a hand that steers towards where it wants to be and is held back by a damper that stands on the ground: x'' = w^2 (u - x) - 2 z w x'. A lag of
2 z / w at constant speed. H(s) = w^2 / (s^2 + 2 z w s + w^2) (Ogata 2010, Modern Control Engineering, section 5-3).

Both hold for any frequency above 0 and any damping above 0.
"""

from __future__ import annotations

import math
from functools import lru_cache

import numpy as np

from zittern.core.units import Array

__all__ = ["carried", "led", "played"]


def carried(values: Array, frequency_hz: float, damping: float, step_s: float) -> Array:
    """What hangs on a point that moves through values on a grid, starting at rest in the first. (G, N) -> (G, N)."""
    return _filtered(values, frequency_hz, damping, step_s, carried=True)


def led(values: Array, frequency_hz: float, damping: float, step_s: float) -> Array:
    """What is steered towards values on a grid, starting at rest in the first. (G, N) -> (G, N)."""
    return _filtered(values, frequency_hz, damping, step_s, carried=False)


def _filtered(values: Array, frequency_hz: float, damping: float, step_s: float, carried: bool) -> Array:
    from scipy import signal  # half a second to import: only whoever uses it waits

    b, a = (np.array(each) for each in _coefficients(frequency_hz, damping, step_s, carried))
    settled = signal.lfilter_zi(b, a)[:, None] * values[:1]
    out, _ = signal.lfilter(b, a, values, axis=0, zi=settled)
    return np.asarray(out, dtype=np.float64)


@lru_cache(maxsize=256)
def _coefficients(frequency_hz: float, damping: float, step_s: float, carried: bool) -> tuple[tuple[float, ...], tuple[float, ...]]:
    from scipy import signal

    w = 2.0 * math.pi * frequency_hz
    spring = np.array([2.0 * damping * w, w * w] if carried else [w * w]), np.array([1.0, 2.0 * damping * w, w * w])
    numerator, denominator, _ = signal.cont2discrete(spring, step_s, method="foh")  # type: ignore[call-overload]
    return tuple(np.ravel(numerator).tolist()), tuple(np.ravel(denominator).tolist())


def played(values: Array, slack: Array) -> Array:
    """What is pushed along by values only where they leave its slack: y = min(max(y, u - s), u + s), from the first value on (backlash; Krasnosel'skii
    and Pokrovskii 1989, Systems with Hysteresis). Both (G,) -> (G,).

    Each step is a clamp; clamps put one after another are clamps, so all of them are found by doubling.
    """
    low, high = values - slack, values + slack
    low[0] = high[0] = values[0]
    reach = 1
    while reach < len(values):
        before_low, before_high = low[:-reach].copy(), high[:-reach].copy()
        np.clip(before_low, low[reach:], high[reach:], out=before_low)
        np.clip(before_high, low[reach:], high[reach:], out=before_high)
        low[reach:], high[reach:] = before_low, before_high
        reach *= 2
    return low
