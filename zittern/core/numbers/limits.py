"""Limits of numbers, said where a field of a document is.

They are checked when it is set, and hold wherever it is sampled.
"""

from __future__ import annotations

from dataclasses import dataclass

from pydantic import AfterValidator
from pydantic.fields import FieldInfo

from zittern.core.numbers.param import Number

__all__ = ["bounded", "limits_of"]


@dataclass(frozen=True, slots=True)
class _Within:
    least: float
    most: float

    def __call__(self, param: Number) -> Number:
        return param.within(self.least, self.most)


def bounded(least: float, most: float) -> AfterValidator:
    """Return a number limits; refuses one with a set value outside of them."""
    return AfterValidator(_Within(least, most))


def limits_of(field: FieldInfo) -> tuple[float, float] | None:
    """Limits of the numbers in a field of a document; nothing for a field that holds something else."""
    for each in field.metadata:
        if isinstance(each, AfterValidator) and isinstance(each.func, _Within):
            return each.func.least, each.func.most
    return None
