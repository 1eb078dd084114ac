"""Formulas scaled and shifted as texts, so that doing it again and again does not make them grow."""

from __future__ import annotations

import re

__all__ = ["scaled", "unscaled"]

# A factor this near to 1, or a shift this near to 0, came of rounding.
_FOLDED = 1e-12
_NUMBER = r"\d+\.?\d*(?:e[+-]?\d+)?"
_SCALED = re.compile(
    rf"\((?P<inner>.*)\)(?: \* (?P<factor>-?{_NUMBER}))?(?: (?P<sign>[+-]) (?P<shift>{_NUMBER}))?", re.DOTALL
)


def scaled(text: str, factor: float, shift: float) -> str:
    """Return (text) * factor + shift, merged with an earlier scaling.

    A formula does not grow each time it is scaled.
    """
    inner, had_factor, had_shift = unscaled(text)
    factor, shift = had_factor * factor, had_shift * factor + shift
    shift = 0.0 if abs(shift) < _FOLDED * (1.0 + abs(had_shift)) else shift
    if abs(factor - 1.0) < _FOLDED:
        factor = 1.0
    made = f"({inner}) * {factor!r}" if factor != 1.0 else f"({inner})"
    if shift:
        return f"{made} + {shift!r}" if shift > 0.0 else f"{made} - {-shift!r}"
    return made if factor != 1.0 else inner


def unscaled(text: str) -> tuple[str, float, float]:
    """Split a text that `scaled` returned: text, factor, shift."""
    found = _SCALED.fullmatch(text)
    if found is None or not _balanced(found["inner"]):
        return text, 1.0, 0.0
    sign = -1.0 if found["sign"] == "-" else 1.0
    return found["inner"], float(found["factor"] or 1.0), sign * float(found["shift"] or 0.0)


def _balanced(text: str) -> bool:
    """Return whether the brackets in a text are balanced."""
    depth = 0
    for character in text:
        depth += (character == "(") - (character == ")")
        if depth < 0:
            return False
    return depth == 0
