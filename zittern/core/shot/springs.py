"""Springs: what is mounted Spring-mounted and dampers that its parent carries."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from zittern.core.documents.doc import Doc
from zittern.core.numbers.limits import bounded
from zittern.core.numbers.param import Param, fixed

__all__ = ["Springs"]

_Hertz = Annotated[float, Field(ge=0.05, le=60.0)]
_Damping = Annotated[float, Field(ge=0.02, le=5.0)]


class Springs(Doc):
    """shift, turn: translation and rotation springs.

    _hz: natural frequency; _damping: ratio to critical damping. stop: maximum deflection, reached smoothly. weight:
    weight of the deflection.
    """

    shift: bool = True
    shift_hz: _Hertz = 1.4
    shift_damping: _Damping = 0.4
    shift_stop_cm: float = Field(default=30.0, ge=0.01, le=1e5)
    turn: bool = True
    turn_hz: _Hertz = 1.8
    turn_damping: _Damping = 0.5
    turn_stop_deg: float = Field(default=30.0, ge=0.01, le=180.0)
    weight: Annotated[Param, bounded(0.0, 1.0)] = fixed(1.0)
