"""The operator: the simulated person who aims a mount at the shot's subject, or at something else."""

from __future__ import annotations

import math
from typing import Annotated, Literal

from pydantic import Field

from zittern.core.errors import DocumentError
from zittern.core.numbers.limits import bounded
from zittern.core.numbers.param import Param, fixed
from zittern.core.shot.targets import Follows

__all__ = ["HoldFraming", "Operator"]

# The framing target may be outside the picture: the subject is then led out of it, or held there.
_Place = Annotated[Param, bounded(-50.0, 150.0)]
_Hertz = Annotated[float, Field(ge=0.05, le=10_000.0)]
_Damping = Annotated[float, Field(ge=0.1, le=5.0)]
_Slack = Annotated[float, Field(ge=0.0, le=45.0)]
_Seconds = Annotated[float, Field(ge=0.0, le=3.0)]


class Operator(Follows):
    """across_percent, up_percent: framing target of the subject, from the picture's left and lower edge.

    May be outside. reaction_s: delay of perception; anticipation_s: look ahead along the subject's path. _hz, _damping:
    speed and damping of the response. _slack_percent: framing error that stays uncorrected, of the picture's width or
    height.
    """

    mode: Literal["replace", "add"] = "replace"
    across_percent: _Place = fixed(50.0)
    up_percent: _Place = fixed(50.0)
    reaction_s: _Seconds = 0.25
    anticipation_s: _Seconds = 0.0
    pan: bool = True
    pan_hz: _Hertz = 0.9
    pan_damping: _Damping = 0.7
    pan_slack_percent: _Slack = 2.0
    tilt: bool = True
    tilt_hz: _Hertz = 0.9
    tilt_damping: _Damping = 0.7
    tilt_slack_percent: _Slack = 3.0
    weight: Annotated[Param, bounded(0.0, 1.0)] = fixed(1.0)

    @property
    def steady_lag_s(self) -> float:
        """Return the lag of the pan for a subject at constant speed: reaction + 2 damping / (2 pi f) - anticipation."""
        return self.reaction_s + self.pan_damping / (math.pi * self.pan_hz) - self.anticipation_s

    @property
    def least_lag_s(self) -> float:
        """Return the minimum of `steady_lag_s` with this anticipation: without reaction and response lag."""
        return -self.anticipation_s

    def lagging(self, lag_s: float) -> Operator | None:
        """Return the same operator with another lag.

        Reaction and response lag (2 damping / omega) are scaled equally, for tilt as for pan, and anticipation stays.
        None where that cannot be.
        """
        own_s = self.pan_damping / (math.pi * self.pan_hz)
        times = (lag_s + self.anticipation_s) / (self.reaction_s + own_s)
        if times <= 0.0:
            return None
        changed = {
            "reaction_s": self.reaction_s * times,
            "pan_hz": self.pan_hz / times,
            "tilt_hz": self.tilt_hz / times,
        }
        try:
            return self.replace(**changed)
        except DocumentError:
            return None


class HoldFraming(Follows):
    """Remove the drift of a target from its framing position below `below_hz`, and keep the shake above.

    Target and framing position are the operator's if there is one.
    """

    below_hz: float = Field(default=0.4, ge=0.02, le=5.0)
    across_percent: _Place = fixed(50.0)
    up_percent: _Place = fixed(50.0)
    weight: Annotated[Param, bounded(0.0, 1.0)] = fixed(1.0)
