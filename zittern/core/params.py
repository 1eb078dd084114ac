"""A number in a document: fixed, or keyed over frames. One type for all, so that a further state adds a member here only."""

from __future__ import annotations

from typing import Annotated, Any, Literal

import numpy as np
from pydantic import AfterValidator, BeforeValidator, Field

from zittern.core.curves import Curve
from zittern.core.doc import Doc
from zittern.core.units import Array

__all__ = ["Fixed", "Keyed", "Param", "bounded", "fixed", "keyed"]


class Fixed(Doc):
    """One value for the whole shot."""

    state: Literal["fixed"] = "fixed"
    value: float

    @property
    def constant(self) -> float | None:
        """The value when it never changes."""
        return self.value

    @property
    def key_frames(self) -> Array:
        """Frames at which the shape of the number may break. (K,)"""
        return np.empty(0)

    def sample(self, frames: Array) -> Array:
        """(F,) -> (F,)."""
        return np.full(np.shape(frames), self.value)


class Keyed(Doc):
    """A curve over the shot's frames."""

    state: Literal["keyed"] = "keyed"
    curve: Curve

    @property
    def constant(self) -> float | None:
        """The value when it never changes."""
        return self.curve.keys[0].value if len(self.curve.keys) == 1 else None

    @property
    def key_frames(self) -> Array:
        """Frames at which the shape of the number may break. (K,)"""
        return self.curve.arrays.frames

    def sample(self, frames: Array) -> Array:
        """(F,) -> (F,)."""
        return self.curve.sample(frames)


def _from_number(value: Any) -> Any:
    return {"state": "fixed", "value": value} if isinstance(value, (int, float)) and not isinstance(value, bool) else value


Param = Annotated[Annotated[Fixed | Keyed, Field(discriminator="state")], BeforeValidator(_from_number)]


def fixed(value: float) -> Fixed:
    """A fixed number."""
    return Fixed(value=value)


def keyed(*points: tuple[float, float], interp: Literal["hold", "linear", "smooth", "free"] = "smooth") -> Keyed:
    """A keyed number from (frame, value) pairs."""
    return Keyed(curve=Curve.of(points, interp))


def bounded(least: float, most: float) -> AfterValidator:
    """Refuses a number, or any key of it, outside least..most."""

    def check(param: Fixed | Keyed) -> Fixed | Keyed:
        values = (param.value,) if isinstance(param, Fixed) else tuple(key.value for key in param.curve.keys)
        for value in values:
            if not least <= value <= most:
                raise ValueError(f"expected {least:g} to {most:g}, got {value:g}")
        return param

    return AfterValidator(check)
