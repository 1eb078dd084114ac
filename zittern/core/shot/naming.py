"""The names of dials, changed wherever a document has them."""

from __future__ import annotations

from typing import Any, TypeVar, cast

from zittern.core.documents.doc import Doc, rebuilt
from zittern.core.numbers.param import Number, with_name
from zittern.core.shot.dials import Dial
from zittern.core.shot.origins import BroughtDial

__all__ = ["renamed"]

T = TypeVar("T")


def renamed(value: T, old: str, new: str, formulas_only: bool = False) -> T:
    """Return a document, or a tuple of them, with a name changed in every formula and in the dial that has it.

    Unaffected parts are shared.
    """
    return cast(T, _changed(value, old, new, formulas_only))


def _changed(value: Any, old: str, new: str, formulas_only: bool) -> Any:
    if isinstance(value, Number):
        return with_name(value, old, new)
    if isinstance(value, tuple):
        parts = tuple(_changed(each, old, new, formulas_only) for each in value)
        return value if all(a is b for a, b in zip(parts, value, strict=True)) else parts
    if not isinstance(value, Doc):
        return value
    own = {}
    if isinstance(value, (Dial, BroughtDial)) and value.name == old and not formulas_only:
        own["name"] = new
    return rebuilt(value, lambda part: _changed(part, old, new, formulas_only), **own)
