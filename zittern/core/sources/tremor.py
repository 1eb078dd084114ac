"""Tremor: the fast, small shake of muscles that hold something.

Sines within +-width about the centre, power falling off as a Gaussian of standard deviation width/2. Physiological
tremor of hand and arm is at 8 to 12 Hz (Elble and Koller 1990); its amplitude varies because neighboring sines
beat.
"""

from __future__ import annotations

from typing import Annotated, ClassVar, Literal

import numpy as np

from zittern.core.numbers.limits import bounded
from zittern.core.numbers.param import Number, Param, fixed
from zittern.core.numbers.scope import Scope
from zittern.core.sources import bands
from zittern.core.sources.source import Inputs, SourceDoc
from zittern.core.units import Array

__all__ = ["Tremor"]

_SINES = 15


class Tremor(SourceDoc):
    """Muscles at work."""

    runs_back: ClassVar[bool] = True

    rates: ClassVar[frozenset[str]] = frozenset({"centre_hz", "width_hz"})

    kind: Literal["tremor"] = "tremor"
    centre_hz: Annotated[Param, bounded(0.1, 60.0)] = fixed(9.5)
    width_hz: Annotated[Param, bounded(0.0, 20.0)] = fixed(1.5)
    loop: bool = False

    @property
    def counted(self) -> Number:
        """Return the center frequency."""
        return self.centre_hz

    def peak_hz(self, scope: Scope) -> Array:
        """Return the centre.

        Returns
        -------
        (F,) float64, Hz.
        """
        return self.centre_hz.sample(scope)

    def motion(self, inputs: Inputs) -> Array:
        """Motion on the axes that are asked for.

        Returns
        -------
        (F, A), unit RMS.
        """
        places = bands.scattered(_SINES, inputs.seeds)
        cycles = inputs.phase(self.centre_hz)[:, :, None] + inputs.phase(self.width_hz)[:, :, None] * places
        if self.loop:
            totals = inputs.total_phase(self.centre_hz)[:, None] + inputs.total_phase(self.width_hz)[:, None] * places
            cycles = cycles * bands.whole_cycles(totals)
        return bands.sines(
            cycles, np.exp(-(places**2)), inputs.seeds
        )  # power exp(-2 d^2): a Gaussian of half the width
