"""What is typed into a number: figures, sums with functions and constants, a unit behind it; `+=2` or `*=1.5` change what stands there."""

from __future__ import annotations

import re

import numpy as np

from zittern.core.formula.fault import FormulaFault
from zittern.core.formula.grammar import parse
from zittern.core.formula.tree import name_nodes, values_of
from zittern.core.units import Array

__all__ = ["MOST_TYPED", "worked_out"]

MOST_TYPED = 500
# As numbers carry them on the screen.
_UNIT = re.compile(r"(?<=[\d.)\s])\s*(?:°|deg|cm|mm|px|Hz|hz|HZ|%|ms|s|m|x|×|f)\s*$")
_RELATIVE = re.compile(r"^\s*([-+*/])=(.*)$", re.DOTALL)
# People of many countries write 0,4; between arguments a comma follows a letter somewhere before.
_COMMA = re.compile(r"(?<=\d),(?=\d)")


def worked_out(text: str, before: float) -> float:
    """The number that a text stands for, where `before` stood. Raises FormulaFault with the place in the text."""
    if len(text) > MOST_TYPED:
        raise FormulaFault(f"a number takes at most {MOST_TYPED} characters, got {len(text)}", MOST_TYPED, len(text))
    relative = _RELATIVE.match(text)
    plain = text[relative.start(2) :] if relative else text
    plain = _UNIT.sub("", plain)
    if not re.search("[A-Za-z]{2}", plain):
        plain = _COMMA.sub(".", plain)
    node = parse(plain)
    name = next(name_nodes(node), None)
    if name is not None:
        raise FormulaFault(f"`{name.name}` is not the same at all times; write = before a formula", name.start, name.stop)
    value = float(values_of(node, _nothing, 1)[0])
    if relative is None:
        return value
    with np.errstate(all="ignore"):
        changed = {"+": before + value, "-": before - value, "*": before * value, "/": before / value if value else before}[relative.group(1)]
    if not np.isfinite(changed):
        raise FormulaFault("this becomes too large", 0, len(text))
    return changed


def _nothing(_name: str) -> Array:
    return np.zeros(1)
