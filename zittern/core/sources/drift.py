"""Drift: the slow sway of a standing body.

Sines from 0.4 to 4 times the rate, scattered evenly in log frequency, with a log-normal bump of power that peaks at the
rate: at the default rate all of it is within 0.05 to 0.5 Hz, the band of quiet standing (Winter 1995, "Human balance
and
posture control").
"""

from __future__ import annotations

from typing import Annotated, ClassVar, Literal

import numpy as np

from zittern.core.numbers.limits import bounded
from zittern.core.numbers.param import Param, fixed
from zittern.core.numbers.scope import Scope
from zittern.core.sources import bands
from zittern.core.sources.source import Inputs, SourceDoc
from zittern.core.units import Array

__all__ = ["Drift"]

_LOW, _HIGH, _SINES = 0.4, 4.0, 11
# Width of the bump in natural-log frequency.
_SPREAD = 0.55


class Drift(SourceDoc):
    """A body that stands and never quite still."""

    runs_back: ClassVar[bool] = True

    rates: ClassVar[frozenset[str]] = frozenset({"rate_hz"})

    kind: Literal["drift"] = "drift"
    rate_hz: Annotated[Param, bounded(0.0, 10.0)] = fixed(0.12)
    loop: bool = False

    def peak_hz(self, scope: Scope) -> Array:
        """Return the rate.

        Returns
        -------
        (F,) float64, Hz.
        """
        return self.rate_hz.sample(scope)

    def motion(self, inputs: Inputs) -> Array:
        """Motion on the axes that are asked for.

        Returns
        -------
        (F, A), unit RMS.
        """
        half_log = 0.5 * np.log(_HIGH / _LOW)
        ratios = np.sqrt(_LOW * _HIGH) * np.exp(half_log * bands.scattered(_SINES, inputs.seeds))
        amplitudes = np.exp(-(np.log(ratios) ** 2) / (4.0 * _SPREAD**2))
        cycles = inputs.phase(self.rate_hz)[:, :, None] * ratios
        if self.loop:
            cycles = cycles * bands.whole_cycles(inputs.total_phase(self.rate_hz)[:, None] * ratios)
        return bands.sines(cycles, amplitudes, inputs.seeds)
