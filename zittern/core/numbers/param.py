"""A number in a document, in one of its states: fixed, keyed over frames, or a formula.

Which states there are is known in this module only.

All other modules call `sample` in a scope, `limits`, `breaks`, `reads`, `map` for its
values, and for its `curve` where it has keys. A further state is a class here and a member of `Param`.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from functools import cached_property, lru_cache
from typing import TYPE_CHECKING, Annotated, Any, ClassVar, Literal, Self, TypeVar

import numpy as np
from pydantic import BeforeValidator, Field, PrivateAttr, model_validator

from zittern.core.documents.doc import Doc, digest
from zittern.core.errors import DocumentError, out_of_range, union_members
from zittern.core.formula.fault import FormulaFault
from zittern.core.formula.grammar import parse, renamed
from zittern.core.formula.scaling import scaled
from zittern.core.formula.tree import BUILT_IN, FRAME_ALIAS, Notices, may_jump, names_in, values_of, varies_by_axis
from zittern.core.numbers.curves import MOST_KEYS, Curve, Key
from zittern.core.numbers.scope import Scope
from zittern.core.units import Array

__all__ = [
    "STATES",
    "Number",
    "Param",
    "by_formula",
    "fixed",
    "formula_of",
    "keyed",
    "linear_keys",
    "on_curve",
    "with_name",
]  # fmt: skip

# Relative second difference below which a key is on the line between its neighbors.
_STRAIGHT = 1e-11
_UNLIMITED = (-np.inf, np.inf)
# Names that depend on the span and the clock of who reads them.
_CLOCKED = frozenset({"u", "t", "f", FRAME_ALIAS})
# Drafts may be longer than a formula.
MOST_DRAFT = 10_000


class Number(Doc):
    """Interface of all states of a number."""

    # A factory: a default would be copied for every number.
    _limits: tuple[float, float] = PrivateAttr(default_factory=lambda: _UNLIMITED)

    @cached_property
    def limits(self) -> tuple[float, float]:
        """Return its minimum and maximum, by its field. They hold at every sampled frame."""
        return self._limits

    def within(self, least: float, most: float) -> Self:
        """Return the number with limits. Raises ValueError for a set value outside of them."""
        for value in self.set_values():
            if not least <= value <= most:
                raise ValueError(out_of_range(least, most, value))
        if self._limits == (least, most):
            return self
        out = self.model_copy()
        for known in ("motion_key", "limits"):
            out.__dict__.pop(known, None)
        out._limits = (least, most)
        return out

    def clamped(self, least: float, most: float) -> Number:
        """Return the number with every set value brought within limits.

        The text of a formula is unchanged: limits apply to its samples.
        """
        return self.map(lambda value: min(max(value, least), most))

    @cached_property
    def motion_key(self) -> str:
        """Hash of its values and limits."""
        return digest(f"{self._limits}{self.model_dump_json()}")

    @property
    def maximum(self) -> float:
        """Return a bound of its values that is known without sampling."""
        return self.limits[1]

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
        """Frames at which its shape may break.

        Returns
        -------
        (K,) float64, frame numbers.
        """
        return np.empty(0)

    def jumps(self, reach: tuple[float, float]) -> Array:
        """Return the jumps within a range of frames, as far as its keys define them.

        Returns
        -------
        (J, 2): the last frame before, the first after.
        """
        return np.empty((0, 2))

    @property
    def reads(self) -> frozenset[str]:
        """Names of the scope's values that it depends on."""
        return frozenset()

    @property
    def spanned(self) -> bool:
        """Return whether it depends on its span and clock."""
        return False

    @property
    def by_axis(self) -> bool:
        """Return whether it differs by axis."""
        return False

    @property
    def may_jump(self) -> bool:
        """Return whether it may jump elsewhere than at its breaks."""
        return False

    def set_values(self) -> tuple[float, ...]:
        """Return every value that was set."""
        raise NotImplementedError

    @property
    def nothing(self) -> bool:
        """Return whether it is 0 at all set values."""
        return all(value == 0.0 for value in self.set_values())

    def map(self, change: Callable[[float], float]) -> Number:
        """Return the number with every set value changed."""
        raise NotImplementedError

    def sample(self, scope: Scope) -> Array:
        """Its values within the limits.

        Returns
        -------
        (F,) float64, in the unit of its field.
        """
        raise NotImplementedError

    def at(self, scope: Scope) -> float:
        """Return the value at a scope's first frame."""
        constant = self.constant
        return float(self.sample(scope.over(scope.frames[:1]))[0]) if constant is None else constant


_F = TypeVar("_F", bound="Fixed")


class Fixed(Number):
    """One value for the whole shot."""

    curve: ClassVar[None] = None  # type: ignore[assignment]
    state: Literal["fixed"] = "fixed"
    value: float

    def within(self, least: float, most: float) -> Self:
        """Return the number with limits, shared by all equal ones: documents contain many. Raises ValueError."""
        if not least <= self.value <= most:
            raise ValueError(out_of_range(least, most, self.value))
        return (
            self
            if self._limits == (least, most)
            else _shared(type(self), self.value, math.copysign(1.0, self.value), least, most)
        )

    @cached_property
    def motion_key(self) -> str:
        """Its value: that it lies within its limits was checked."""
        return f"={self.value!r}"

    @property
    def constant(self) -> float | None:
        return self.value

    def set_values(self) -> tuple[float, ...]:
        return (self.value,)

    def map(self, change: Callable[[float], float]) -> Number:
        return Fixed(value=change(self.value))

    def sample(self, scope: Scope) -> Array:
        return np.full(np.shape(scope.frames), self.value)


@lru_cache(maxsize=20_000)
def _shared(kind: type[_F], value: float, _sign: float, least: float, most: float) -> _F:
    """Return the shared number with limits. sign: distinguishes 0 and -0."""
    out = kind(value=value)
    out._limits = (least, most)
    return out


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

    def jumps(self, reach: tuple[float, float]) -> Array:
        return self.curve.jumps(reach)

    def set_values(self) -> tuple[float, ...]:
        return tuple(key.value for key in self.curve.keys)

    def map(self, change: Callable[[float], float]) -> Number:
        return on_curve(self.curve.mapped(change))

    def sample(self, scope: Scope) -> Array:
        values = self.curve.sample(scope.frames)
        return values if self.limits == _UNLIMITED else np.clip(values, *self.limits)


_Plain = Annotated[Fixed | Keyed, Field(discriminator="state")]
_Draft = Annotated[str, Field(max_length=MOST_DRAFT)]


class Formula(Number):
    """An expression that is evaluated at each frame.

    draft: an unfinished text; the last valid text stays in effect, or the previous number if there was none.
    """

    curve: ClassVar[None] = None  # type: ignore[assignment]
    state: Literal["formula"] = "formula"
    text: _Draft
    draft: _Draft | None = None
    before: _Plain | None = None

    @model_validator(mode="after")
    def _readable(self) -> Self:
        if self.text or self.before is None:
            parse(self.text)
        return self

    @property
    def constant(self) -> float | None:
        return self.before.constant if self.before is not None and not self.text else None

    @property
    def nothing(self) -> bool:
        return not self.text and self.before is not None and self.before.nothing

    @property
    def breaks(self) -> Array:
        return np.empty(0) if self.text or self.before is None else self.before.breaks

    def jumps(self, reach: tuple[float, float]) -> Array:
        return np.empty((0, 2)) if self.text or self.before is None else self.before.jumps(reach)

    @cached_property
    def reads(self) -> frozenset[str]:
        return names_in(parse(self.text)) - frozenset(BUILT_IN) if self.text else frozenset()

    @cached_property
    def motion_key(self) -> str:
        return (
            digest(f"{self._limits}={self.text}")
            if self.text or self.before is None
            else self.before.within(*self._limits).motion_key
        )

    @property
    def maximum(self) -> float:
        return min(parse(self.text).bound, self.limits[1]) if self.text else self.limits[1]

    @cached_property
    def spanned(self) -> bool:
        return bool(self.text) and bool(_CLOCKED & names_in(parse(self.text)))

    @cached_property
    def by_axis(self) -> bool:
        return bool(self.text) and varies_by_axis(parse(self.text))

    @cached_property
    def may_jump(self) -> bool:
        return bool(self.text) and may_jump(parse(self.text))

    def set_values(self) -> tuple[float, ...]:
        return () if self.before is None else self.before.set_values()

    def map(self, change: Callable[[float], float]) -> Number:
        """Exact for what scales and shifts: an expression has no single values to change."""
        text = scaled(self.text, change(1.0) - change(0.0), change(0.0)) if self.text else ""
        return Formula(text=text, draft=self.draft, before=None if self.before is None else self.before.map(change))  # type: ignore[arg-type]

    def clamped(self, least: float, most: float) -> Number:
        return self if self.before is None else self.replace(before=self.before.clamped(least, most))

    def sample(self, scope: Scope) -> Array:
        if not self.text and self.before is not None:
            return self.before.within(*self._limits).sample(scope)
        node, (least, most) = parse(self.text), self.limits
        values = values_of(node, scope.value, len(scope.frames))
        if least > -node.bound:
            np.maximum(values, least, out=values)
        if most < node.bound:
            np.minimum(values, most, out=values)
        return values

    def notices(self, scope: Scope) -> tuple[str, ...]:
        """Return notices of values that were not finite or outside the limits."""
        found = Notices()
        values = values_of(parse(self.text), scope.value, len(scope.frames), found) if self.text else np.empty(0)
        least, most = self._limits
        if np.any((values < least) | (values > most)):
            found.add(f"values outside {least:.10g} to {most:.10g} are clamped")
        return tuple(found.texts)


_CLASSES: tuple[type[Number], ...] = (Fixed, Keyed, Formula)
# Their names, as documents have them.
STATES: tuple[str, ...] = tuple(each.model_fields["state"].default for each in _CLASSES)
union_members(*STATES)


def _from_number(value: Any) -> Any:
    return (
        {"state": "fixed", "value": value} if isinstance(value, (int, float)) and not isinstance(value, bool) else value
    )


Param = Annotated[Annotated[Fixed | Keyed | Formula, Field(discriminator="state")], BeforeValidator(_from_number)]


def fixed(value: float) -> Fixed:
    """Return a fixed number."""
    return Fixed(value=value)


def by_formula(text: str, before: Number, wrong: bool = False) -> Formula:
    """Return the formula for a text, in place of another number.

    A text that cannot be read, or is `wrong` for another reason, becomes a draft; what was in force stays.
    """
    good = before.text if isinstance(before, Formula) else ""
    plain = before.before if isinstance(before, Formula) else before
    try:
        parse(text)
    except FormulaFault:
        wrong = True
    if wrong:
        return Formula(text=good, draft=text, before=None if good else plain)  # type: ignore[arg-type]
    return Formula(text=text)


def with_name(number: Number, old: str, new: str) -> Number:
    """Return the number, with a name changed in its formula and in what is being typed, where it has one."""
    if not isinstance(number, Formula):
        return number
    text = renamed(number.text, old, new)
    draft = None if number.draft is None else renamed(number.draft, old, new)
    return (
        number
        if (text, draft) == (number.text, number.draft)
        else Formula(text=text, draft=draft, before=number.before)
    )


def formula_of(number: Number) -> Formula | None:
    """Return the formula, of a number that is one."""
    return number if isinstance(number, Formula) else None


def on_curve(curve: Curve) -> Keyed:
    """Return a number with the keys of a curve."""
    return Keyed(curve=curve)


def keyed(*points: tuple[float, float], interp: Literal["hold", "linear", "smooth", "free"] = "smooth") -> Keyed:
    """Return a keyed number from (frame, value) pairs."""
    return on_curve(Curve.of(points, interp))


def linear_keys(frames: Array, values: Array) -> Fixed | Keyed:
    """Return the number through samples, linear between them; keys on straight stretches are left out.

    Raises DocumentError when it needs more keys than a curve may have.

    Parameters
    ----------
    frames: (N,) rising.
    values : (N,) float64, samples, in any unit.

    Returns
    -------
    A number.
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
        raise DocumentError(
            f"the path needs {int(keep.sum())} keys; up to {MOST_KEYS} are possible. Thin it out or shorten it"
        )
    return on_curve(
        Curve(
            keys=tuple(
                Key(frame=float(f), value=float(v), interp="linear")
                for f, v in zip(frames[keep], values[keep], strict=True)
            )
        )
    )
