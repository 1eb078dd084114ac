"""Wave: sine, triangle, soft square, saw or pulse, by rate or beats a minute, with a phase per axis.

Each is scaled to unit RMS and zero mean in closed form. With phases a quarter turn apart two axes draw a circle; with one
axis at twice the pace they draw an eight.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from typing import Annotated, Literal

import numpy as np
from scipy.special import ive

from zittern.core.doc import Doc
from zittern.core.params import Param, bounded, fixed
from zittern.core.sources.source import Inputs, SourceDoc
from zittern.core.units import Array

__all__ = ["Phases", "Wave", "WaveShape"]

WaveShape = Literal["sine", "triangle", "soft square", "saw", "pulse"]

# Steepness of the soft square's tanh: flanks take about a tenth of the period.
_SQUARE_STEEPNESS = 4.0
# Concentration of the pulse (von Mises): its half width is about an eighth of the period.
_PULSE_KAPPA = 8.0

_Turn = Annotated[Param, bounded(-3600.0, 3600.0)]


class Phases(Doc):
    """Start of the wave on each axis, degrees of its period."""

    pan: _Turn = fixed(0.0)
    tilt: _Turn = fixed(90.0)
    roll: _Turn = fixed(45.0)
    truck: _Turn = fixed(0.0)
    pedestal: _Turn = fixed(90.0)
    dolly: _Turn = fixed(45.0)
    zoom: _Turn = fixed(0.0)


class Wave(SourceDoc):
    """Regular motion: a boat, a swing, an engine. `beats` only says how people read the rate."""

    kind: Literal["wave"] = "wave"
    rate_hz: Annotated[Param, bounded(0.0, 500.0)] = fixed(0.5)
    beats: bool = False
    shape: WaveShape = "sine"
    phase_deg: Phases = Phases()

    def peak_hz(self, frames: Array) -> Array:
        """The rate: the fundamental is the largest part of each shape. (F,) -> (F,)."""
        return self.rate_hz.sample(frames)

    def motion(self, inputs: Inputs) -> Array:
        """(F, A), unit RMS over whole periods."""
        starts = np.stack([getattr(self.phase_deg, axis).sample(inputs.frames) for axis in inputs.axes], axis=1)
        return SHAPES[self.shape](2.0 * np.pi * (inputs.phase(self.rate_hz) + starts / 360.0))


def _sine(turn: Array) -> Array:
    return math.sqrt(2.0) * np.sin(turn)


def _triangle(turn: Array) -> Array:
    return math.sqrt(3.0) * (2.0 / np.pi) * np.arcsin(np.sin(turn))


def _saw(turn: Array) -> Array:
    return math.sqrt(3.0) * (2.0 * np.mod(turn / (2.0 * np.pi) + 0.5, 1.0) - 1.0)


# Mean of tanh(a sin t)^2 over a period; the rule converges geometrically for periodic integrands.
_SQUARE_RMS = float(np.sqrt(np.mean(np.tanh(_SQUARE_STEEPNESS * np.sin(np.linspace(0.0, 2.0 * np.pi, 4096, endpoint=False))) ** 2)))


def _soft_square(turn: Array) -> Array:
    return np.tanh(_SQUARE_STEEPNESS * np.sin(turn)) / _SQUARE_RMS


# exp(k (cos t - 1)) has mean e^-k I0(k) and mean square e^-2k I0(2k); ive is I0 already scaled by e^-k.
_PULSE_MEAN = float(ive(0, _PULSE_KAPPA))
_PULSE_RMS = math.sqrt(float(ive(0, 2.0 * _PULSE_KAPPA)) - _PULSE_MEAN**2)


def _pulse(turn: Array) -> Array:
    return (np.exp(_PULSE_KAPPA * (np.cos(turn) - 1.0)) - _PULSE_MEAN) / _PULSE_RMS


SHAPES: dict[WaveShape, Callable[[Array], Array]] = {
    "sine": _sine,
    "triangle": _triangle,
    "soft square": _soft_square,
    "saw": _saw,
    "pulse": _pulse,
}
