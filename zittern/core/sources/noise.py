"""Noise: fractal gradient noise of unit RMS whose spectrum peaks at the rate.

Octave o (core/octave.py) runs at 2^o times
the rate with persistence^o times the size; the sum is divided by the root of the sum of squares, so that more octaves
change the texture and never the size.
"""

from __future__ import annotations

from typing import Annotated, ClassVar, Literal

from pydantic import Field

from zittern.core.noise.octave import PEAK_CYCLES_PER_STEP, fractal
from zittern.core.numbers.limits import bounded
from zittern.core.numbers.param import Param, fixed
from zittern.core.numbers.phase import one_of_equal
from zittern.core.numbers.scope import Scope
from zittern.core.sources.source import Inputs, SourceDoc
from zittern.core.units import Array

__all__ = ["MOST_OCTAVES", "Noise"]

MOST_OCTAVES = 8


class Noise(SourceDoc):
    """Irregular motion, as of a hand that holds a camera."""

    runs_back: ClassVar[bool] = True

    rates: ClassVar[frozenset[str]] = frozenset({"rate_hz"})

    kind: Literal["noise"] = "noise"
    rate_hz: Annotated[Param, bounded(0.0, 500.0)] = fixed(0.6)
    octaves: int = Field(default=2, ge=1, le=MOST_OCTAVES)
    persistence: Annotated[Param, bounded(0.0, 1.0)] = fixed(0.5)
    loop: bool = False

    def peak_hz(self, scope: Scope) -> Array:
        """Return the rate: the first octave is the largest.

        Returns
        -------
        (F,) float64, Hz.
        """
        return self.rate_hz.sample(scope)

    def edge_hz(self, scope: Scope) -> Array:
        """Twice the rate of its finest octave.

        Returns
        -------
        (F,) float64, Hz.
        """
        return 2.0**self.octaves * self.peak_hz(scope)

    def motion(self, inputs: Inputs) -> Array:
        """Motion on the axes that are asked for.

        Returns
        -------
        (F, A), unit RMS.
        """
        steps = one_of_equal(inputs.phase(self.rate_hz).T) / PEAK_CYCLES_PER_STEP
        totals = inputs.total_phase(self.rate_hz) / PEAK_CYCLES_PER_STEP if self.loop else None
        share = self.persistence.sample(inputs.scope)
        return fractal(steps, share, self.octaves, inputs.seeds, totals).T
