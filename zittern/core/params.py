"""A number in a document: fixed, or keyed over frames. One type for all, so that a further state adds a member here only."""

from __future__ import annotations

from typing import Annotated, Any, Literal

import numpy as np
from pydantic import AfterValidator, BeforeValidator, Field

from zittern.core.curves import MOST_KEYS, Curve, Key
from zittern.core.doc import Doc
from zittern.core.errors import DocumentError, out_of_range
from zittern.core.units import Array

__all__ = ["Fixed", "Keyed", "Param", "bounded", "fixed", "keyed", "through"]

# Relative second difference under which a key lies on the line between its neighbours.
_STRAIGHT = 1e-11


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


def through(frames: Array, values: Array) -> Fixed | Keyed:
    """The number through samples, linear between them; keys on straight stretches are left out. (N,), (N,).

    Raises DocumentError when it needs more keys than a curve may have.
    """
    spread = float(np.ptp(values))
    scale = max(1.0, float(np.max(np.abs(values))))
    if spread <= 1e-12 * scale:
        return Fixed(value=float(values[0]))
    keep = np.ones(len(frames), dtype=bool)
    if len(frames) > 2:
        slope = np.diff(values) / np.diff(frames)
        keep[1:-1] = np.abs(np.diff(slope)) > _STRAIGHT * scale
    if int(keep.sum()) > MOST_KEYS:
        raise DocumentError(f"the path needs {int(keep.sum())} keys; at most {MOST_KEYS} are possible. Thin it out or shorten it")
    return Keyed(curve=Curve(keys=tuple(Key(frame=float(f), value=float(v), interp="linear") for f, v in zip(frames[keep], values[keep], strict=True))))


def bounded(least: float, most: float) -> AfterValidator:
    """Refuses a number, or any key of it, outside least..most."""

    def check(param: Fixed | Keyed) -> Fixed | Keyed:
        values = (param.value,) if isinstance(param, Fixed) else tuple(key.value for key in param.curve.keys)
        for value in values:
            if not least <= value <= most:
                raise ValueError(out_of_range(least, most, value))
        return param

    return AfterValidator(check)
