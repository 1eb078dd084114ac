"""Wave: sine, triangle, soft square, saw or pulse, by rate or beats a minute, with a phase per axis.

Each is scaled to unit RMS and zero mean in closed form. With phases a quarter turn apart two axes draw a circle; with
one axis at twice the pace they draw an eight.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from typing import Annotated, Any, ClassVar, Literal

import numpy as np

from zittern.core.axes import Axis, axis_index
from zittern.core.documents.by_axis import fields_by_axis
from zittern.core.documents.doc import Doc
from zittern.core.numbers.limits import bounded
from zittern.core.numbers.param import Param, fixed
from zittern.core.numbers.scope import Scope
from zittern.core.runtime.later import scipy_part
from zittern.core.sources.source import Inputs, SourceDoc, Start
from zittern.core.units import Array

__all__ = ["Phases", "Wave", "WaveShape"]

WaveShape = Literal["sine", "triangle", "soft square", "saw", "pulse"]

# Steepness of the soft square's tanh: flanks take about a tenth of the period.
_SQUARE_STEEPNESS = 4.0
# A camera has mass: the saw's return takes this share of the period, and is no jump.
_SAW_RETURN = 0.12
# Concentration of the pulse (von Mises): its half width is about an eighth of the period.
_PULSE_KAPPA = 8.0

# Start of the wave on an axis, degrees of its period; 0 on others.
_START_DEG: dict[Axis, float] = {"tilt": 90.0, "roll": 45.0, "pedestal": 90.0, "dolly": 45.0, "shift_y": 90.0}
_Turns: Any = fields_by_axis(
    lambda info: (Annotated[Param, bounded(-3600.0, 3600.0)], fixed(_START_DEG.get(info.name, 0.0)))
)


class Phases(_Turns, Doc):
    """Start of the wave on each axis, degrees of its period."""

    def cycles(self, inputs: Inputs) -> Array:
        """Start of the wave on the axes that are asked for.

        Returns
        -------
        (F, A) cycles.
        """
        numbers = [(getattr(self, axis), inputs.scope.on_axis(axis_index(axis))) for axis in inputs.axes]
        return np.stack([number.sample(scope) for number, scope in numbers], axis=1) / 360.0


class Wave(SourceDoc):
    """Regular motion: a boat, a swing, an engine.

    `beats` only affects the display of the rate. start: start phase, on all axes.
    """

    still: ClassVar[frozenset[str]] = frozenset({"beats"})

    runs_back: ClassVar[bool] = True

    rates: ClassVar[frozenset[str]] = frozenset({"rate_hz"})

    kind: Literal["wave"] = "wave"
    rate_hz: Annotated[Param, bounded(0.0, 500.0)] = fixed(0.5)
    beats: bool = False
    shape: WaveShape = "sine"
    phase_deg: Phases = Phases()
    start: Start = 0.0

    def peak_hz(self, scope: Scope) -> Array:
        """Return the rate: the fundamental is the largest part of each shape.

        Returns
        -------
        (F,) float64, Hz.
        """
        return self.rate_hz.sample(scope)

    def motion(self, inputs: Inputs) -> Array:
        """Motion on the axes that are asked for.

        Returns
        -------
        (F, A), unit RMS over whole periods.
        """
        return SHAPES[self.shape](
            2.0 * np.pi * (inputs.phase(self.rate_hz) + self.phase_deg.cycles(inputs) + self.start)
        )


def _sine(turn: Array) -> Array:
    return math.sqrt(2.0) * np.sin(turn)


def _triangle(turn: Array) -> Array:
    return _rise_and_fall(turn, 0.5)


def _saw(turn: Array) -> Array:
    return _rise_and_fall(turn, 1.0 - _SAW_RETURN)


def _rise_and_fall(turn: Array, rise: float) -> Array:
    """Straight up for a share of the period, straight down for the rest; RMS of the unit wave is 1/sqrt(3).

    Zero at turn 0.
    """
    sawtooth = scipy_part("signal").sawtooth
    return np.asarray(math.sqrt(3.0) * sawtooth(turn + np.pi * rise, rise), dtype=np.float64)


# Means over a period by the rectangle rule, which converges geometrically for smooth periodic integrands.
_PERIOD = np.linspace(0.0, 2.0 * np.pi, 4096, endpoint=False)
_SQUARE_RMS = float(np.sqrt(np.mean(np.tanh(_SQUARE_STEEPNESS * np.sin(_PERIOD)) ** 2)))


def _soft_square(turn: Array) -> Array:
    return np.tanh(_SQUARE_STEEPNESS * np.sin(turn)) / _SQUARE_RMS


_PULSE_MEAN = float(np.mean(np.exp(_PULSE_KAPPA * (np.cos(_PERIOD) - 1.0))))
_PULSE_RMS = float(np.std(np.exp(_PULSE_KAPPA * (np.cos(_PERIOD) - 1.0))))


def _pulse(turn: Array) -> Array:
    return (np.exp(_PULSE_KAPPA * (np.cos(turn) - 1.0)) - _PULSE_MEAN) / _PULSE_RMS


SHAPES: dict[WaveShape, Callable[[Array], Array]] = {
    "sine": _sine,
    "triangle": _triangle,
    "soft square": _soft_square,
    "saw": _saw,
    "pulse": _pulse,
}
