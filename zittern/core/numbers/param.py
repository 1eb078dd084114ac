"""A number in a document, in one of its states: fixed, or keyed over frames. Which states there are is known in this module only.

All else asks a number to `sample` itself in a scope, for its `limits`, its `breaks`, what it `reads`, to `map` its values, and for its
`curve` where it has keys. A further state is a class here and a member of `Param`.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import TYPE_CHECKING, Annotated, Any, ClassVar, Literal, Self

import numpy as np
from pydantic import AfterValidator, BeforeValidator, Field, PrivateAttr
from pydantic.fields import FieldInfo

from zittern.core.doc import Doc
from zittern.core.errors import DocumentError, out_of_range, union_members
from zittern.core.numbers.curves import MOST_KEYS, Curve, Key
from zittern.core.numbers.scope import Scope
from zittern.core.units import Array

__all__ = ["STATES", "Number", "Param", "bounded", "fixed", "keyed", "limits_of", "on_curve", "through"]

# Relative second difference under which a key lies on the line between its neighbours.
_STRAIGHT = 1e-11
_UNLIMITED = (-np.inf, np.inf)


class Number(Doc):
    """What every state can do."""

    _limits: tuple[float, float] = PrivateAttr(default=_UNLIMITED)

    @property
    def limits(self) -> tuple[float, float]:
        """Least and most it may be, by the field it stands in. They hold at every sampled frame."""
        return self._limits

    def within(self, least: float, most: float) -> Self:
        """The same number with limits. Raises ValueError for a set value outside of them."""
        for value in self.set_values():
            if not least <= value <= most:
                raise ValueError(out_of_range(least, most, value))
        if self._limits == (least, most):
            return self
        out = self.model_copy()
        out._limits = (least, most)
        return out

    @property
    def constant(self) -> float | None:
        """The value when it never changes."""
        raise NotImplementedError

    if TYPE_CHECKING:

        @property
        def curve(self) -> Curve | None:
            """The keys, where there are any."""

    @property
    def breaks(self) -> Array:
        """Frames at which its shape may break. (K,)."""
        return np.empty(0)

    @property
    def reads(self) -> frozenset[str]:
        """Names of the scope's values that it depends on."""
        return frozenset()

    def set_values(self) -> tuple[float, ...]:
        """Every value that somebody set."""
        raise NotImplementedError

    def map(self, change: Callable[[float], float]) -> Number:
        """The number with every set value changed."""
        raise NotImplementedError

    def sample(self, scope: Scope) -> Array:
        """(F,) values within the limits."""
        raise NotImplementedError

    def at(self, scope: Scope) -> float:
        """The value at a scope's first frame."""
        constant = self.constant
        return float(self.sample(scope.over(scope.frames[:1]))[0]) if constant is None else constant


class Fixed(Number):
    """One value for the whole shot."""

    curve: ClassVar[None] = None  # type: ignore[assignment]
    state: Literal["fixed"] = "fixed"
    value: float

    @property
    def constant(self) -> float | None:
        return self.value

    def set_values(self) -> tuple[float, ...]:
        return (self.value,)

    def map(self, change: Callable[[float], float]) -> Number:
        return Fixed(value=change(self.value))

    def sample(self, scope: Scope) -> Array:
        return np.full(np.shape(scope.frames), self.value)


class Keyed(Number):
    """A curve over the shot's frames."""

    state: Literal["keyed"] = "keyed"
    curve: Curve

    @property
    def constant(self) -> float | None:
        keys = self.curve.keys
        return keys[0].value if len(keys) == 1 else None

    @property
    def breaks(self) -> Array:
        return self.curve.arrays.frames

    def set_values(self) -> tuple[float, ...]:
        return tuple(key.value for key in self.curve.keys)

    def map(self, change: Callable[[float], float]) -> Number:
        return on_curve(self.curve.mapped(change))

    def sample(self, scope: Scope) -> Array:
        values = self.curve.sample(scope.frames)
        return values if self._limits == _UNLIMITED else np.clip(values, *self._limits)


_CLASSES: tuple[type[Number], ...] = (Fixed, Keyed)
# Their names, as documents have them.
STATES: tuple[str, ...] = tuple(each.model_fields["state"].default for each in _CLASSES)
union_members(*STATES)


def _from_number(value: Any) -> Any:
    return {"state": "fixed", "value": value} if isinstance(value, (int, float)) and not isinstance(value, bool) else value


Param = Annotated[Annotated[Fixed | Keyed, Field(discriminator="state")], BeforeValidator(_from_number)]


def fixed(value: float) -> Fixed:
    """A fixed number."""
    return Fixed(value=value)


def on_curve(curve: Curve) -> Keyed:
    """A number with the keys of a curve."""
    return Keyed(curve=curve)


def keyed(*points: tuple[float, float], interp: Literal["hold", "linear", "smooth", "free"] = "smooth") -> Keyed:
    """A keyed number from (frame, value) pairs."""
    return on_curve(Curve.of(points, interp))


def through(frames: Array, values: Array) -> Fixed | Keyed:
    """The number through samples, linear between them; keys on straight stretches are left out. (N,), (N,).

    Raises DocumentError when it needs more keys than a curve may have.
    """
    spread = float(np.ptp(values))
    scale = max(1.0, float(np.max(np.abs(values))))
    if spread <= 1e-12 * scale:
        return fixed(float(values[0]))
    keep = np.ones(len(frames), dtype=bool)
    if len(frames) > 2:
        slope = np.diff(values) / np.diff(frames)
        keep[1:-1] = np.abs(np.diff(slope)) > _STRAIGHT * scale
    if int(keep.sum()) > MOST_KEYS:
        raise DocumentError(f"the path needs {int(keep.sum())} keys; at most {MOST_KEYS} are possible. Thin it out or shorten it")
    return on_curve(Curve(keys=tuple(Key(frame=float(f), value=float(v), interp="linear") for f, v in zip(frames[keep], values[keep], strict=True))))


@dataclass(frozen=True, slots=True)
class _Within:
    least: float
    most: float

    def __call__(self, param: Number) -> Number:
        return param.within(self.least, self.most)


def bounded(least: float, most: float) -> AfterValidator:
    """Gives a number limits; refuses one with a set value outside of them."""
    return AfterValidator(_Within(least, most))


def limits_of(field: FieldInfo) -> tuple[float, float] | None:
    """Limits of the numbers in a field of a document; nothing for a field that holds something else."""
    for each in field.metadata:
        if isinstance(each, AfterValidator) and isinstance(each.func, _Within):
            return each.func.least, each.func.most
    return None
