"""Formulas: an expression an axis, in the axes' own units; swing does not scale it, weight does."""

from __future__ import annotations

from typing import ClassVar, Literal

from zittern.core.formula.grammar import parse
from zittern.core.numbers.param import by_formula, fixed
from zittern.core.sources.hand_keys import HandKeys, Tracks

__all__ = ["Formulas"]

# A slow sway from side to side, visible immediately and easy to replace.
_FIRST = "0.5 * sin(tau * t / 4)"
parse(_FIRST)


class Formulas(HandKeys):
    """Formulas for each axis."""

    absolute: ClassVar[bool] = True

    kind: Literal["formula"] = "formula"  # type: ignore[assignment]
    tracks: Tracks = Tracks().replace(pan=by_formula(_FIRST, fixed(0.0)))
