"""A dial: a number that the user makes, with a name and limits, for formulas to read."""

from __future__ import annotations

from typing import Annotated, ClassVar, Self

from pydantic import AfterValidator, Field, StringConstraints, model_validator

from zittern.core.documents.doc import Doc
from zittern.core.formula.grammar import RESERVED
from zittern.core.numbers.param import Param, fixed
from zittern.core.numbers.scope import Scope
from zittern.core.shot.path_facts import FACT_NAMES
from zittern.core.units import Array

__all__ = ["Dial", "DialName"]


def _free(name: str) -> str:
    if name in RESERVED or name in FACT_NAMES:
        raise ValueError(f"`{name}` is a reserved name in formulas; choose another one")
    return name


DialName = Annotated[str, StringConstraints(pattern=r"^[A-Za-z][A-Za-z0-9_]*$", max_length=40), AfterValidator(_free)]
_Bound = Annotated[float, Field(ge=-1e9, le=1e9)]


class Dial(Doc):
    """Its value is within its limits at every frame."""

    motion_irrelevant: ClassVar[frozenset[str]] = frozenset({"name", "unit"})

    name: DialName
    unit: Annotated[str, StringConstraints(strip_whitespace=True, max_length=12)] = ""
    minimum: _Bound = 0.0
    maximum: _Bound = 100.0
    value: Param = fixed(0.0)

    @model_validator(mode="after")
    def _ordered(self) -> Self:
        if not self.minimum < self.maximum:
            raise ValueError(
                f"the minimum of a dial must be below its maximum, got {self.minimum:g} and {self.maximum:g}"
            )
        self.value.within(self.minimum, self.maximum)
        return self

    def sample(self, scope: Scope) -> Array:
        """Its values within its limits.

        Returns
        -------
        (F,) float64, in the unit of the dial.
        """
        return self.value.within(self.minimum, self.maximum).sample(scope)
