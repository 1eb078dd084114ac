"""Second-order following, discretized exactly for piecewise linear input.

First-order hold: the input is linear between grid points, so that no step is too large.

Base excited, a mass on a spring and a damper that a moving point carries: x'' = w^2 (u - x) + 2 z w (u' - x'), with w =
2 pi f. No lag at constant speed, a lag of a / w^2 under constant acceleration a (Den Hartog 1956, Mechanical
Vibrations, section 2.12). H(s) = (2 z w s + w^2) / (s^2 + 2 z w s + w^2).

Grounded damper, a hand that steers towards a target and is damped relative to the ground:
x'' = w^2 (u - x) - 2 z w x'. A lag of 2 z / w at constant speed. H(s) = w^2 / (s^2 + 2 z w s + w^2) (Ogata 2010, Modern
Control Engineering, section 5-3).

Both hold for any frequency above 0 and any damping above 0.
"""

from __future__ import annotations

import math
from functools import lru_cache

import numpy as np

from zittern.core.motion.memory import Grid, at_frames
from zittern.core.runtime.later import scipy_part
from zittern.core.units import Array

__all__ = ["backlash", "base_excited", "base_excited_on", "grounded_damper", "step_response"]


def base_excited(values: Array, frequency_hz: float, damping: float, grid: Grid) -> Array:
    """Return the response of a base-excited mass to values at all points of a grid, starting at rest in the first.

    Parameters
    ----------
    values: (H - 1 + G, N).

    Returns
    -------
    (G, N) float64, positions in the unit of the values.
    """
    return _followed(values, frequency_hz, damping, grid, True)


def base_excited_on(
    values: Array, frequency_hz: float, damping: float, step_s: float, history: tuple[Array, Array]
) -> Array:
    """Continue the response of a base-excited mass with even steps from an earlier state.

    Parameters
    ----------
    values : (G, N) float64, positions of the base, in any unit.
    history: output and input one and two steps before the first, (2, N) each.

    Returns
    -------
    (G, N) float64, positions in the unit of the values.
    """
    return _filtered(values, _coefficients(frequency_hz, damping, step_s, True), history)


def grounded_damper(values: Array, frequency_hz: float, damping: float, grid: Grid) -> Array:
    """Return the position of a grounded-damper system.

    It is steered towards values at all points of a grid, starting at rest in the first.

    Parameters
    ----------
    values: (H - 1 + G, N).

    Returns
    -------
    (G, N) float64, positions in the unit of the values.
    """
    return _followed(values, frequency_hz, damping, grid, False)


def step_response(seconds: Array, frequency_hz: float, damping: float) -> Array:
    """Return the closed-form response of a base-excited mass at times after a unit step of its base.

    ζ < 1: 1 - e^(-ζωt) (cos ω_d t - (ζω/ω_d) sin ω_d t). ζ = 1: 1 - e^(-ωt) (1 - ωt).
    ζ > 1: 1 + (p₁ e^(-p₁t) - p₂ e^(-p₂t)) / (p₂ - p₁) with p = ω (ζ ∓ √(ζ² - 1)).

    >>> step_response(np.array([0.0, 0.25, 5.0]), frequency_hz=1.0, damping=0.3).round(3)
    array([0.   , 1.151, 1.   ])

    Parameters
    ----------
    seconds : (T,) float64, seconds.

    Returns
    -------
    (T,) float64, position as a share of the step.
    """
    w, z = 2.0 * math.pi * frequency_hz, damping
    if abs(z - 1.0) < _CRITICAL:
        return np.asarray(1.0 - np.exp(-w * seconds) * (1.0 - w * seconds), dtype=np.float64)
    if z < 1.0:
        w_d = w * math.sqrt(1.0 - z * z)
        turn = w_d * seconds
        return np.asarray(
            1.0 - np.exp(-z * w * seconds) * (np.cos(turn) - z * w / w_d * np.sin(turn)), dtype=np.float64
        )
    root = math.sqrt(z * z - 1.0)
    slow, fast = w * (z - root), w * (z + root)
    return np.asarray(
        1.0 + (slow * np.exp(-slow * seconds) - fast * np.exp(-fast * seconds)) / (fast - slow), dtype=np.float64
    )


# Near critical damping the general forms divide by almost zero.
_CRITICAL = 1e-6


def _followed(values: Array, frequency_hz: float, damping: float, grid: Grid, carried: bool) -> Array:
    """Through the coarse lead first, where there is one, and on from there through the fine steps."""
    if not len(grid.far):
        return _filtered(values, _coefficients(frequency_hz, damping, grid.step_s, carried), None)
    count = grid.far_count
    far = values[: count + 1]
    led = _filtered(far, _coefficients(frequency_hz, damping, grid.far_step_s, carried), None)
    step = grid.near[1] - grid.near[0]
    before = grid.near[0] - step * np.array([1.0, 2.0])
    history = at_frames(grid.far, led, before), at_frames(grid.far, far, before)
    return _filtered(values[count:], _coefficients(frequency_hz, damping, grid.step_s, carried), history)


def _filtered(
    values: Array, coefficients: tuple[tuple[float, ...], tuple[float, ...]], history: tuple[Array, Array] | None
) -> Array:
    """history: output and input one and two steps before the first, (2, N) each; at rest when missing."""
    signal = scipy_part("signal")
    b, a = (np.array(each) for each in coefficients)
    if history is None:
        state = signal.lfilter_zi(b, a)[:, None] * values[:1]
    else:
        state = _states(*coefficients) @ np.concatenate(history)
    followed, _ = signal.lfilter(b, a, values, axis=0, zi=state)
    return np.asarray(followed, dtype=np.float64)


@lru_cache(maxsize=256)
def _states(b: tuple[float, ...], a: tuple[float, ...]) -> Array:
    """Return the matrix that computes a filter's state, (2, N), from output and input one step and two steps earlier.

    (2, 4) float64, dimensionless.
    """
    signal, once = scipy_part("signal"), np.eye(4)
    return np.stack([signal.lfiltic(b, a, each[:2], each[2:]) for each in once], axis=1)


@lru_cache(maxsize=256)
def _coefficients(
    frequency_hz: float, damping: float, step_s: float, carried: bool
) -> tuple[tuple[float, ...], tuple[float, ...]]:
    signal = scipy_part("signal")
    w = 2.0 * math.pi * frequency_hz
    spring = np.array([2.0 * damping * w, w * w] if carried else [w * w]), np.array([1.0, 2.0 * damping * w, w * w])
    numerator, denominator, _ = signal.cont2discrete(spring, step_s, method="foh")  # type: ignore[call-overload]
    return tuple(np.ravel(numerator).tolist()), tuple(np.ravel(denominator).tolist())


def backlash(values: Array, slack: Array) -> Array:
    """Return the output of backlash, which follows the input only where it leaves the slack.

    Y = min(max(y, u - s), u + s), from the first value on (Krasnosel'skii and Pokrovskii 1989, Systems with
    Hysteresis).

    Each step is a clamp; clamps put one after another are clamps, so all of them are found by doubling.

    >>> backlash(np.array([0.0, 1.0, 3.0, 2.5, 0.0]), np.full(5, 1.0))
    array([0., 0., 2., 2., 1.])

    Parameters
    ----------
    values : (G,) float64, positions, in any unit.
    slack : (G,) float64, half width of the slack, in the same unit.

    Returns
    -------
    (G,) float64, positions in the unit of the values.
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
