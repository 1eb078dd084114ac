"""Cycle: a few keys drawn once and repeated, exact at the seam.

The keys are at 0 to 100 % of the cycle; a smooth curve without overshoot connects them and returns to the first. It is
brought to zero mean and unit RMS by its own mean and RMS over one cycle.
"""

from __future__ import annotations

from typing import Annotated, ClassVar, Literal, Self

import numpy as np
from pydantic import Field, model_validator

from zittern.core.numbers.curves import Curve
from zittern.core.numbers.limits import bounded
from zittern.core.numbers.param import Param, fixed
from zittern.core.numbers.scope import Scope
from zittern.core.sources.source import Inputs, SourceDoc, Start
from zittern.core.sources.wave import Phases
from zittern.core.units import Array

__all__ = ["Cycle"]

Point = tuple[Annotated[float, Field(ge=0.0, lt=100.0)], Annotated[float, Field(ge=-1000.0, le=1000.0)]]
# Mean and RMS over a cycle are taken on this many points.
_POINTS = 2048


class Cycle(SourceDoc):
    """A drawn cycle, repeated. points: (percent of the cycle, height), in increasing order."""

    runs_back: ClassVar[bool] = True

    kind: Literal["cycle"] = "cycle"
    rate_hz: Annotated[Param, bounded(0.0, 100.0)] = fixed(0.8)
    points: Annotated[tuple[Point, ...], Field(min_length=2, max_length=64)] = (
        (0.0, 0.0),
        (20.0, 1.0),
        (45.0, -0.2),
        (60.0, 0.35),
        (80.0, -0.6),
    )
    phase_deg: Phases = Phases()
    start: Start = 0.0

    @model_validator(mode="after")
    def _rising(self) -> Self:
        for i in range(1, len(self.points)):
            if self.points[i][0] <= self.points[i - 1][0]:
                raise ValueError(
                    f"points are in rising order; points[{i}] is at {self.points[i][0]:g} % after "
                    f"{self.points[i - 1][0]:g} %"
                )
        if len({height for _, height in self.points}) == 1:
            raise ValueError("all points have the same height: there is no motion in it")
        return self

    def peak_hz(self, scope: Scope) -> Array:
        """Cycles a second.

        Returns
        -------
        (F,) float64, Hz.
        """
        return self.rate_hz.sample(scope)

    def motion(self, inputs: Inputs) -> Array:
        """Motion on the axes that are asked for.

        Returns
        -------
        (F, A), unit RMS over whole cycles.
        """
        first = self.points[0]
        closed = Curve.of([*self.points, (first[0] + 100.0, first[1])]).replace(before="repeat", after="repeat")
        one = closed.sample(first[0] + 100.0 * np.arange(_POINTS) / _POINTS)
        at = 100.0 * (inputs.phase(self.rate_hz) + self.phase_deg.cycles(inputs) + self.start)
        return np.asarray((closed.sample(at.ravel()).reshape(at.shape) - one.mean()) / one.std(), dtype=np.float64)
