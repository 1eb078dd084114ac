"""Errors of a formula: message, position and advice."""

from __future__ import annotations

from collections.abc import Iterable
from difflib import get_close_matches

__all__ = ["FormulaFault", "unknown"]


class FormulaFault(ValueError):
    """message: the error and advice.

    start, stop: characters of the text that it is about; behind its end for what is missing there.
    """

    def __init__(self, message: str, start: int, stop: int) -> None:
        super().__init__(message)
        self.message = message
        self.start = start
        self.stop = stop

    def __str__(self) -> str:
        """Return the message with its position."""
        return f"{self.message} (at character {self.start + 1})"


def unknown(name: str, known: Iterable[str], start: int, what: str = "is not known") -> FormulaFault:
    """Return an error such as: `sine` is not known; did you mean `sin`?."""
    near = get_close_matches(name[:_SHOWN], list(known), n=1)
    shown = name if len(name) <= _SHOWN else f"{name[:_SHOWN]}…"
    remedy = f"; did you mean `{near[0]}`?" if near else "; the list next to the formula shows all names"
    return FormulaFault(f"`{shown}` {what}{remedy}", start, start + len(name))


_SHOWN = 40
